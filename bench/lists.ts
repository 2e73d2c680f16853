import type { AreaShape } from '@/core/areas/shape'
import { withinDaysFrom } from '@/core/calendar/local-day'
import { BANDS } from '@/core/criteria/head-count'
import type { Criterion } from '@/core/criteria/registry'
import { says, stems } from '@/core/criteria/wording'
import type { Line } from '@/core/lists/line'
import { Random } from '@/core/checks/random'
import { BOX, COUNTIES, INDUSTRIES, ROLE_WORDS, TAGS, TOWNS } from './generate'

/** The demo's seeded chance, with a pick of several. */
export class Seeded extends Random {
  some<T>(of: readonly T[], count: number): T[] {
    const rest = [...of]
    return Array.from({ length: count }, () => rest.splice(this.below(rest.length), 1)[0])
  }
}

type Made = { verb: 'keep' | 'drop'; criterion: Criterion }

/** A twelve-line list narrowed to about so many of a million: how wide each of its eleven questions is. */
export interface Shape {
  name: string
  roles: number
  industries: number
  counties: number
  towns: number
  /** Part of the map's width that an area reaches from its middle. */
  reach: number
  tagged: boolean
}

export const SHAPES: Shape[] = [
  { name: '100,000 left', roles: 18, industries: 12, counties: 5, towns: 48, reach: 0.52, tagged: false },
  { name: '26,000 left', roles: 12, industries: 9, counties: 5, towns: 30, reach: 0.42, tagged: false },
  { name: '100 left', roles: 5, industries: 5, counties: 2, towns: 10, reach: 0.3, tagged: true },
]

/** The questions of a shape, each with words never asked before when the numbers go on. */
export function questions(shape: Shape, random: Seeded): Made[] {
  const bands = Object.keys(BANDS) as (keyof typeof BANDS)[]
  return [
    // A wording of a role as a team keeps it: many words, and some that rule a role out.
    {
      verb: 'keep',
      criterion: {
        kind: 'role',
        any: random.some(ROLE_WORDS, shape.roles).map((word) => word.toLowerCase()),
        not: [`head trainee`, `owner deputy grade ${random.below(100)}`],
        named: { id: 1, name: 'a wording of ours' },
      },
    },
    { verb: 'keep', criterion: { kind: 'industry', any: random.some(INDUSTRIES, shape.industries) } },
    { verb: 'keep', criterion: { kind: 'county', any: random.some(COUNTIES, shape.counties) } },
    { verb: 'keep', criterion: { kind: 'place', towns: random.some(TOWNS, shape.towns), postcodes: [] } },
    {
      verb: 'drop',
      criterion: {
        kind: 'role',
        any: random.some(['trainee grade', 'deputy grade', 'assistant grade', 'adviser grade'], 2).map((w) => `${w} ${random.below(100)}`),
      },
    },
    { verb: 'drop', criterion: { kind: 'contacted', how: 'within', days: 5 + random.below(60), by: null } },
    { verb: 'drop', criterion: { kind: 'head-count', any: random.some(bands, 1) } },
    { verb: 'keep', criterion: { kind: 'area', areas: [{ id: random.below(1_000_000_000), name: 'drawn' }] } },
    { verb: 'drop', criterion: { kind: 'contact-count', least: 12 + random.below(20), most: null, days: null, results: [], by: null } },
    shape.tagged
      ? { verb: 'keep', criterion: { kind: 'tag', any: random.some(TAGS, 1) } }
      : { verb: 'drop', criterion: { kind: 'tag', any: random.some(TAGS, 1) } },
    shape.tagged
      ? { verb: 'keep', criterion: { kind: 'reach', channel: 'phone' } }
      : { verb: 'keep', criterion: { kind: 'reach', channel: 'post' } },
  ]
}

export const START: Line = { id: 'start', verb: 'start', off: false, batch: null }
export const page = (made: Made[]): Line[] => [
  START,
  ...made.map((m, i): Line => ({ id: `l${i + 2}`, off: false, unknownAsYes: false, ...m })),
]

/** The polygon of an area that was made up: forty corners around a point of the map, by the area's number. */
export function shapeOf(id: number, shape: Shape): AreaShape {
  const random = new Seeded(id)
  const [wide, high] = [BOX[2] - BOX[0], BOX[3] - BOX[1]]
  const [lon, lat] = [BOX[0] + wide * (0.4 + 0.2 * random.next()), BOX[1] + high * (0.4 + 0.2 * random.next())]
  const ring = Array.from({ length: 40 }, (_, i): [number, number] => {
    const far = shape.reach * (0.75 + 0.25 * random.next())
    return [lon + wide * far * Math.cos((i / 40) * 2 * Math.PI), lat + high * far * Math.sin((i / 40) * 2 * Math.PI)]
  })
  return { polygons: [[ring]], circles: [], streets: [] }
}

/** The list after an edit: one of its questions asked anew. */
export function edited(base: Made[], shape: Shape, random: Seeded, which: number): Made[] {
  const fresh = questions(shape, random)
  return base.map((m, i) => (i === which ? fresh[i] : m))
}

/** Words as the codes of the flat table the one-scan SQL reads. */
export interface Codes {
  role: string[]
  industry: string[]
  county: string[]
  town: string[]
  tag: string[]
}

/**
 * The same list as one scan with a short-circuit CASE over integer-coded facts: for each record the code of where it
 * stands (0 on, 2 + 2i left out by line i, 3 + 2i unknown to it).
 */
export function caseOf(lines: Line[], codes: Codes, asOf: number, zone: string, shape: Shape): string {
  const whens = lines.flatMap((line, i) => {
    if (!('criterion' in line)) return []
    const { known, yes } = condition(line.criterion, codes, asOf, zone, shape)
    if (line.verb === 'drop') return [`when ${yes} then ${2 + 2 * i}`]
    return [...(known ? [`when ${known} is null then ${3 + 2 * i}`] : []), `when not (${yes}) then ${2 + 2 * i}`]
  })
  return `case ${whens.join(' ')} else 0 end`
}

const known = new Map<string, string[]>()
function stemsOf(word: string): string[] {
  let found = known.get(word)
  if (!found) known.set(word, (found = stems(word)))
  return found
}

function condition(c: Criterion, codes: Codes, asOf: number, zone: string, shape: Shape): { known: string | null; yes: string } {
  const among = (column: keyof Codes, test: (word: string) => boolean) => ({
    known: column,
    yes: `${column} = any('{${codes[column].flatMap((word, code) => (test(word) ? [code] : [])).join(',')}}'::int[])`,
  })
  switch (c.kind) {
    case 'role': {
      const [phrases, against] = [c.any.map(stems), (c.not ?? []).map(stems)]
      return among(
        'role',
        (word) => phrases.some((phrase) => says(stemsOf(word), phrase)) && !against.some((phrase) => says(stemsOf(word), phrase)),
      )
    }
    case 'industry':
      return among('industry', (word) => c.any.includes(word))
    case 'county':
      return among('county', (word) => c.any.includes(word))
    case 'place':
      return among('town', (word) => c.towns.includes(word))
    case 'head-count':
      return {
        known: 'head_count',
        yes: c.any.map((band) => `head_count between ${BANDS[band][0]} and ${Math.min(BANDS[band][1], 2147483647)}`).join(' or '),
      }
    case 'contacted':
      return { known: null, yes: `last_at >= ${withinDaysFrom(asOf, c.days as number, zone)}` }
    case 'area': {
      const [[ring]] = shapeOf(c.areas[0].id, shape).polygons
      // PostgreSQL's own polygon compares with a tolerance; this is the even-odd rule side by side, after the bounding box.
      const [lons, lats] = [ring.map(([lon]) => lon), ring.map(([, lat]) => lat)]
      const sides = ring.map(([x1, y1], i) => {
        const [x2, y2] = ring[(i + 1) % ring.length]
        return `((${y1}::float8 > lat) <> (${y2}::float8 > lat) and lon < (${x2 - x1}::float8 * (lat - ${y1}::float8)) / ${y2 - y1}::float8 + ${x1}::float8)::int`
      })
      return {
        known: 'lon',
        yes: `(lon between ${Math.min(...lons)} and ${Math.max(...lons)} and lat between ${Math.min(...lats)} and ${Math.max(...lats)} and (${sides.join('+')}) % 2 = 1)`,
      }
    }
    case 'contact-count':
      return { known: null, yes: `attempts >= ${c.least}` }
    case 'tag':
      return { known: null, yes: `tags & ${c.any.reduce((bits, tag) => bits | (1 << codes.tag.indexOf(tag)), 0)} <> 0` }
    case 'reach':
      return { known: null, yes: `has_${c.channel}` }
    default:
      throw new Error(`no SQL for ${c.kind}`)
  }
}

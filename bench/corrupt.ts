import { fold } from '@/core/clean/fold'
import { generationOf } from '@/core/clean/name'
import { comparableStreet } from '@/core/clean/postal'
import { organisationKey } from '@/core/clean/organisation'
import type { Comparable } from '@/core/match/compare'
import { FAMILY, GIVEN, KINDS, PLACE_A, PLACE_B, STREETS, TOWNS } from '../demo/words'
import { Random } from '@/core/checks/random'

/** A record as people type it. */
export interface Typed {
  given: string
  family: string
  organisation: string
  street: string
  town: string
  postcode: string
  email: string
  phone: string
}

/** What such a record is compared by. */
export const comparable = (r: Typed): Comparable => ({
  given: fold(r.given),
  ...generationOf(fold(r.family)),
  organisation: r.organisation ? organisationKey(r.organisation) : '',
  street: comparableStreet(r.street),
  postcode: fold(r.postcode),
  town: fold(r.town),
  emails: r.email ? [r.email.toLowerCase()] : [],
  phones: r.phone ? [r.phone.replace(/\D/g, '')] : [],
})

export const KINDS_OF_ERROR = [
  'typing error',
  'short form',
  'changed places',
  'moved',
  'missing values',
  'misread letters',
  'initial',
  'two of them',
] as const
export type ErrorKind = (typeof KINDS_OF_ERROR)[number]

export interface Corrupted {
  records: Typed[]
  /** For each duplicate its place, that of the record it was made of, and what was done to it. */
  truth: { copy: number; of: number; kind: ErrorKind }[]
}

/** Names that have short forms, with one of them each. */
const FORMAL = [
  ['Elizabeth', 'Liz'],
  ['William', 'Bill'],
  ['Margaret', 'Peggy'],
  ['Robert', 'Bob'],
  ['Katherine', 'Kate'],
  ['James', 'Jim'],
  ['Alexander', 'Sandy'],
  ['Patricia', 'Trish'],
  ['Michael', 'Mick'],
  ['Christopher', 'Chris'],
  ['Jennifer', 'Jenny'],
  ['Thomas', 'Tom'],
  ['Susan', 'Sue'],
  ['Richard', 'Dick'],
  ['Deborah', 'Debbie'],
  ['Edward', 'Ted'],
  ['Joseph', 'Joe'],
  ['Victoria', 'Vicky'],
  ['Andrew', 'Drew'],
  ['Rebecca', 'Becky'],
  ['Nicholas', 'Nick'],
  ['Charlotte', 'Lottie'],
  ['Daniel', 'Dan'],
  ['Matthew', 'Matt'],
  ['Samantha', 'Sam'],
  ['Anthony', 'Tony'],
  ['Josephine', 'Jo'],
  ['Stephen', 'Steve'],
  ['Rosemary', 'Rose'],
  ['Timothy', 'Tim'],
  ['Philippa', 'Pippa'],
  ['Gregory', 'Greg'],
  ['Penelope', 'Penny'],
  ['Frederick', 'Fred'],
  ['Eleanor', 'Nell'],
  ['Benjamin', 'Ben'],
] as const

/**
 * A seeded set of made-up records, a part of them corrupted copies of others, with the truth known. Colleagues share an
 * organisation, its address and often its number; some households share theirs; names are common and rare as names are
 * (the n-th commonest by 1/(n + 15); Mandelbrot 1953), so that very many people are namesakes. No two have one e-mail address.
 */
export function corrupted(size: number, copies: number, seed = 4711): Corrupted {
  const random = new Random(seed)
  const zipf = <T>(from: readonly T[]): T =>
    from[Math.min(from.length - 1, Math.floor(15 * ((from.length + 15) / 15) ** random.next() - 15))]
  const given = [...GIVEN.slice(0, 40), ...FORMAL.map(([name]) => name), ...GIVEN.slice(40)]
  const family = [
    ...new Set([
      ...FAMILY,
      ...FAMILY.map((name) => `${name}s`),
      ...FAMILY.map((name) => `${name}son`),
      ...FAMILY.map((name) => `Mac${name}`),
      ...FAMILY.map((name) => `${name}er`),
    ]),
  ]
  const place = () => {
    const [town, district] = random.pick(TOWNS)
    return {
      street: `${1 + random.below(180)} ${random.pick(STREETS)}`,
      town,
      postcode: `${district} ${1 + random.below(9)}${String.fromCharCode(65 + random.below(20))}${String.fromCharCode(65 + random.below(20))}`,
    }
  }
  const number = () => `0${1130 + random.below(50)} 4960${String(random.below(100_000)).padStart(5, '0')}`
  const organisations = Array.from({ length: Math.ceil(size / 8) }, (_, i) => {
    const name = `${random.pick(PLACE_A)}${random.pick(PLACE_B)} ${random.pick(KINDS).suffix}`
    return { name, ...place(), phone: number(), domain: `${name.toLowerCase().replace(/[^a-z]+/g, '-')}-${i}.example` }
  })
  const taken = new Set<string>()
  const mail = (box: string, domain: string): string => {
    for (let n = 1; ; n++) {
      const address = `${box}${n > 1 ? n : ''}@${domain}`
      if (!taken.has(address)) {
        taken.add(address)
        return address
      }
    }
  }
  const records: Typed[] = []
  while (records.length < size - copies) {
    const last = records[records.length - 1]
    if (last && last.organisation === '' && random.chance(0.25)) {
      // Another of the household: the same family name, address and often number.
      const other = zipf(given)
      if (
        other === last.given ||
        FORMAL.some((names) => (names as readonly string[]).includes(other) || (names as readonly string[]).includes(last.given))
      )
        continue
      records.push({ ...last, given: other, email: '', phone: random.chance(0.6) ? last.phone : number() })
      continue
    }
    const [g, f] = [zipf(given), zipf(family)]
    const box = `${g}.${f}`
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z.]/g, '')
    if (random.chance(0.15)) {
      records.push({
        given: g,
        family: f,
        organisation: '',
        ...place(),
        email: random.chance(0.5) ? mail(box, 'example.net') : '',
        phone: random.chance(0.7) ? number() : '',
      })
      continue
    }
    const { name, phone, domain, ...at } = random.pick(organisations)
    records.push({
      given: g,
      family: f,
      organisation: name,
      ...(random.chance(0.75) ? at : { street: '', town: at.town, postcode: '' }),
      email: random.chance(0.7) ? mail(box, domain) : '',
      phone: random.chance(0.35) ? phone : random.chance(0.5) ? number() : '',
    })
  }
  const truth: Corrupted['truth'] = []
  const single = KINDS_OF_ERROR.filter((kind) => kind !== 'two of them')
  const chosen = new Set<number>()
  while (truth.length < copies) {
    const of = random.below(size - copies)
    if (chosen.has(of)) continue
    const kind = KINDS_OF_ERROR[truth.length % KINDS_OF_ERROR.length]
    const copy = { ...records[of] }
    const kinds = kind === 'two of them' ? [random.pick(single), random.pick(single)] : [kind]
    if (!kinds.every((k) => spoil(copy, k, random, place, number))) continue
    chosen.add(of)
    truth.push({ copy: records.length, of, kind })
    records.push(copy)
  }
  return { records, truth }
}

/** Spoils a record in place; false where this kind of error cannot befall it. */
function spoil(
  r: Typed,
  kind: ErrorKind,
  random: Random,
  place: () => Pick<Typed, 'street' | 'town' | 'postcode'>,
  number: () => string,
): boolean {
  switch (kind) {
    case 'typing error': {
      const field = random.chance(0.5) ? 'given' : 'family'
      r[field] = typo(r[field], random)
      if (random.chance(0.3)) r.organisation = typo(r.organisation, random)
      return true
    }
    case 'misread letters': {
      const field = random.chance(0.3) ? 'given' : 'family'
      const read = r[field].replace(
        /rn|m|l|o|e|i/i,
        (seen) => ({ rn: 'm', m: 'rn', l: 'i', o: 'c', e: 'c', i: 'l' })[seen.toLowerCase()] ?? seen,
      )
      if (read === r[field]) return false
      r[field] = read
      return true
    }
    case 'short form': {
      const formal = FORMAL.find(([name]) => name === r.given)
      if (!formal) return false
      r.given = formal[1]
      return true
    }
    case 'changed places':
      ;[r.given, r.family] = [r.family, r.given]
      return true
    case 'moved':
      Object.assign(r, place(), { phone: random.chance(0.5) ? number() : r.phone })
      return true
    case 'missing values': {
      for (const field of ['email', 'phone', 'organisation'] as const) if (random.chance(0.4)) r[field] = ''
      if (random.chance(0.4)) Object.assign(r, { street: '', postcode: '' })
      // Whoever is known by a name alone can be told from nobody.
      return Boolean(r.email || r.phone || r.organisation || r.street)
    }
    case 'initial':
      r.given = `${r.given[0]}.`
      return Boolean(r.email || r.phone || r.organisation)
    default:
      return false
  }
}

function typo(word: string, random: Random): string {
  if (word.length < 3) return word
  const at = 1 + random.below(word.length - 2)
  const letter = String.fromCharCode(97 + random.below(26))
  switch (random.below(4)) {
    case 0:
      return word.slice(0, at) + letter + word.slice(at)
    case 1:
      return word.slice(0, at) + word.slice(at + 1)
    case 2:
      return word.slice(0, at) + letter + word.slice(at + 1)
    default:
      return word.slice(0, at) + word[at + 1] + word[at] + word.slice(at + 2)
  }
}

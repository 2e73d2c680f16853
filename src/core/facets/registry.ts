import { daysBetween, localDate } from '../calendar/local-day'
import { bandsBetween } from './bands'
import { OWNER_KINDS } from '../clean/premises'
import { classifyRole, LEVELS } from '../clean/role'
import { ACQUAINTANCE, FIELD, LEGAL_KINDS, LIKELY, PARTS, SEATS } from '../clean/standard-fields'
import type { Directory } from '../columns/directory'
import { OWNER_LIVES } from '../records/premises-record'
import type { Subject } from '../records/subject'
import type { SubjectColumns } from '../columns/subject-columns'
import type { Criterion } from '../criteria/registry'
import { BAND_NAMES, BANDS } from '../criteria/head-count'
import { loanToValue } from '../criteria/equity'
import { byBands, byWords, type Facet, type FacetValues, through } from './facet'
import { CHANNELS } from '../records/channels'

type Values = Facet['values']

const any = (kind: string) => (label: string) => ({ kind, any: [label] }) as Criterion
const facet = (title: string, values: Values, criterion?: Facet['criterion'], ordered?: true): Facet => ({
  title,
  values,
  ...(criterion ? { criterion } : {}),
  ...(ordered ? { ordered } : {}),
})

const HEADS = BAND_NAMES.map((name) => [name, BANDS[name][0]] as const)
const SINCE = [
  ['within a month', 0],
  ['1 to 3 months ago', 31],
  ['3 to 6 months ago', 92],
  ['6 to 12 months ago', 183],
  ['1 to 2 years ago', 366],
  ['longer ago', 731],
] as const
const TIMES = [
  ['never', 0],
  ['once', 1],
  ['2 to 4 times', 2],
  ['5 times or more', 5],
] as const
const YEARS = [
  ['under a year', 0],
  ['1 to 3 years', 12],
  ['3 to 5 years', 36],
  ['5 to 10 years', 60],
  ['10 years or more', 120],
] as const
const ROOF = bandsBetween([100, 250, 500, 1000, 2500], ' m²')
const BUILT = bandsBetween([1850, 1900, 1945, 1980, 2000], '')
const WORTH = [
  ['under 200,000', 0],
  ['200,000 to 499,999', 200_000],
  ['500,000 to 999,999', 500_000],
  ['1,000,000 or more', 1_000_000],
] as const
const EQUITY = [
  ['under 0 %', -1e9],
  ['0 to 19 %', 0],
  ['20 to 39 %', 20],
  ['40 to 59 %', 40],
  ['60 to 79 %', 60],
  ['80 % or more', 80],
] as const

/** The outward part of a postcode, which tells the district from the door (common practice, no source). */
const outward = (postcode: string) => postcode.split(' ')[0] || null

const levelOf = (role: string) => classifyRole(role).level
const functionOf = (role: string) => classifyRole(role).function
const firstOf = (several: string) => several.split(';')[0].trim() || null

/** What any subject has of where it is. */
const where = (of: (d: Directory) => SubjectColumns): Record<string, Facet> => ({
  town: facet(
    'Town',
    (d) => byWords(of(d).town),
    (label) => ({ kind: 'place', towns: [label], postcodes: [] }),
  ),
  county: facet('County', (d) => byWords(of(d).county), any('county')),
  district: facet(
    'Postcode district',
    (d) => byWords(of(d).postcode, outward),
    (label) => ({ kind: 'place', towns: [], postcodes: [label] }),
  ),
})

const organisations: Record<string, Facet> = {
  industry: facet('Industry', (d) => byWords(d.organisations.industry), any('industry')),
  'industry-code': facet('Industry code', (d) => byWords(d.organisations.custom.get(FIELD.industryCode)), any('industry-code')),
  'head-count': facet('Head count', (d) => byBands(HEADS, (n) => orNull(d.organisations.headCount.at(n))), any('head-count'), true),
  'legal-kind': facet('Kind in law', (d) => inOrder(LEGAL_KINDS, byWords(d.organisations.custom.get(FIELD.legalKind))), any('legal-kind')),
  seat: facet('Seat or site', (d) => inOrder(SEATS, byWords(d.organisations.custom.get(FIELD.seat))), any('seat')),
  ...where((d) => d.organisations),
  people: facet(
    'Its people here',
    (d) => {
      const counts = d.organisations.people()
      return byBands(
        [
          ['none', 0],
          ['1', 1],
          ['2 to 5', 2],
          ['6 to 20', 6],
          ['more than 20', 21],
        ],
        (n) => counts[n],
      )
    },
    undefined,
    true,
  ),
}

const premises: Record<string, Facet> = {
  'premises-kind': facet('Kind of premises', (d) => byWords(d.premises.kind), any('premises-kind')),
  roof: facet('Roof area', (d) => byBands(ROOF, (n) => orNull(d.premises.roofArea.at(n))), undefined, true),
  built: facet('Year built', (d) => byBands(BUILT, (n) => orNull(d.premises.yearBuilt.at(n))), undefined, true),
  'owner-kind': facet('Kind of owner', (d) => inOrder(OWNER_KINDS, byWords(d.premises.ownerKind)), any('owner-kind')),
  'owner-lives': facet('Where the owner lives', (d) => inOrder(OWNER_LIVES, byWords(d.premises.ownerLives)), any('owner-lives')),
  worth: facet('Value', (d) => byBands(WORTH, number(d.premises.custom.get(FIELD.value))), undefined, true),
  equity: facet(
    'Equity',
    (d) => {
      const [values, loans] = [d.premises.custom.get(FIELD.value), d.premises.custom.get(FIELD.loan)]
      return byBands(EQUITY, (n) => {
        const found = loanToValue(values?.get(n) ?? undefined, loans?.get(n) ?? undefined)
        return found === null ? null : 100 - found
      })
    },
    undefined,
    true,
  ),
  likely: facet('Likely to change hands', (d) => inOrder(LIKELY, byWords(d.premises.custom.get(FIELD.likely))), any('likely')),
  listed: facet('Listed for sale', (d) => byWords(d.premises.custom.get(FIELD.listed)), any('listed')),
  ...where((d) => d.premises),
}

const lifted = (own: Record<string, Facet>, by: 'organisation' | 'premises'): Record<string, Facet> =>
  Object.fromEntries(
    Object.entries(own).map(([key, f]) => [
      key,
      {
        ...f,
        values: (d, moment) =>
          through(
            by === 'organisation' ? d.people.employer : d.people.at,
            by === 'organisation' ? d.organisations : d.premises,
            f.values(d, moment),
          ),
      } satisfies Facet,
    ]),
  )

const { town: _t, county: _c, district: _d, people: _p, ...ofEmployer } = organisations
const { town: _t2, county: _c2, district: _d2, ...ofPlace } = premises

const people: Record<string, Facet> = {
  role: facet(
    'Role',
    (d) => byWords(d.people.role),
    (label) => ({ kind: 'role', any: [label] }),
  ),
  level: facet('Level', (d) => inOrder(LEVELS, byWords(d.people.role, levelOf)), any('level')),
  function: facet('Function', (d) => byWords(d.people.role, functionOf), any('function')),
  organisation: facet('Organisation', (d) => through(d.people.employer, d.organisations, byWords(d.organisations.name))),
  relation: facet('Relation to us', (d) => byWords(d.people.relation), any('relation')),
  ...where((d) => d.people),
  ...lifted(ofEmployer, 'organisation'),
  part: facet('Part in a decision', (d) => inOrder(PARTS, byWords(d.people.custom.get(FIELD.part))), any('part')),
  acquaintance: facet(
    'How well we know them',
    (d) => inOrder(ACQUAINTANCE, byWords(d.people.custom.get(FIELD.acquaintance))),
    any('acquaintance'),
  ),
  holder: facet('Whose they are', (d) => byWords(d.people.custom.get(FIELD.holder)), any('holder')),
  languages: facet('First language', (d) => byWords(d.people.custom.get(FIELD.languages), firstOf), any('languages')),
  'in-role': facet(
    'Time in the role',
    (d, moment) => byBands(YEARS, monthsSince(d, FIELD.inRoleSince, localDate(moment.asOf, moment.zone))),
    undefined,
    true,
  ),
  reach: facet(
    'Channels open to them',
    (d) =>
      byBands(
        [
          ['none', 0],
          ['one', 1],
          ['two', 2],
          ['all three', 3],
        ],
        (n) => CHANNELS.filter((c) => d.people.usable[c].has(n)).length,
      ),
    undefined,
    true,
  ),
  'last contact': facet(
    'Last contact',
    (d, { asOf }) => {
      const bands = byBands(SINCE, (n) => {
        const last = contactsOf(d, n).last
        return last === Number.NEGATIVE_INFINITY ? null : Math.max(0, (asOf - last) / 86_400_000)
      })
      return { labels: ['never', ...bands.labels], at: (n) => bands.at(n) + 1 }
    },
    undefined,
    true,
  ),
  contacts: facet('Times contacted', (d) => byBands(TIMES, (n) => contactsOf(d, n).count), undefined, true),
  changed: facet(
    'Age of what we know',
    (d, { asOf }) =>
      byBands(SINCE, (n) => {
        const at = d.people.changedAt(n)
        return at === null ? null : Math.max(0, (asOf - at) / 86_400_000)
      }),
    undefined,
    true,
  ),
  ...lifted(ofPlace, 'premises'),
}

/** Every facet there is, by the subject and by a key that stays. */
export const FACETS: Record<Subject, Record<string, Facet>> = { person: people, organisation: organisations, premises }

/** A facet of a subject. Throws a RangeError where there is none of that key. */
export function facetOf(subject: Subject, key: string): Facet {
  const found = Object.hasOwn(FACETS[subject], key) ? FACETS[subject][key] : undefined
  if (!found) throw new RangeError(`no column ${key}`)
  return found
}

const orNull = (value: number) => (value < 0 ? null : value)

function number(column: { get(n: number): string | null } | undefined): (n: number) => number | null {
  return (n) => {
    const value = column?.get(n) ?? null
    return value === null ? null : Number(value)
  }
}

function monthsSince(d: Directory, field: number, today: string): (n: number) => number | null {
  const column = d.people.custom.get(field)
  return (n) => {
    const date = column?.get(n) ?? null
    return date === null ? null : Math.max(0, daysBetween(date, today) / 30.44)
  }
}

function contactsOf({ people: { contacts } }: Directory, n: number): { count: number; last: number } {
  const { at, channel } = contacts.fields
  let [count, last] = [0, Number.NEGATIVE_INFINITY]
  const end = contacts.first(n) + contacts.count(n)
  for (let i = contacts.first(n); i < end; i++) {
    if (channel[i] >= CHANNELS.length) continue
    count++
    if (at[i] > last) last = at[i]
  }
  return { count, last }
}

/** Values whose labels stand in the order they are declared in. */
function inOrder(order: readonly string[], values: FacetValues): FacetValues {
  const labels = [...order, ...values.labels.filter((label) => !order.includes(label))]
  const place = Int32Array.from(values.labels, (label) => labels.indexOf(label))
  return {
    labels,
    at: (n) => {
      const own = values.at(n)
      return own < 0 ? -1 : place[own]
    },
  }
}

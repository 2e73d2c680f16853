import fc from 'fast-check'
import type { AreaShape } from '@/core/areas/shape'
import { OWNER_KINDS } from '@/core/clean/premises'
import { ACQUAINTANCE, DIRECT, FIELD, LEGAL_KINDS, LIKELY, PARTS, SEATS } from '@/core/clean/standard-fields'
import { EMAIL_STATES, PHONE_STATES } from '@/core/records/address-state'
import { Directory } from '@/core/columns/directory'
import type { OrganisationRecord } from '@/core/records/organisation-record'
import type { PeopleColumns } from '@/core/columns/people-columns'
import { OWNER_LIVES, type PremisesRecord } from '@/core/records/premises-record'
import type { PersonRecord } from '@/core/records/person-record'
import type { CustomValues } from '@/core/clean/custom'
import { FUNCTIONS, LEVELS } from '@/core/clean/role'
import { BAND_NAMES } from '@/core/criteria/head-count'
import type { Form, Moment } from '@/core/criteria/kind'
import { CRITERIA, type Criterion } from '@/core/criteria/registry'
import { REACHES } from '@/core/criteria/reachable'
import { type Line, PERS, pickKey } from '@/core/lists/line'
import { ALL_RESULTS } from '@/core/records/results'
import { RANKS } from '@/core/lists/rank'
import type { Rule } from '@/core/screening/rules'
import { CHANNELS, SCREENED, WAYS } from '@/core/records/channels'
import { RELATIONS } from '@/core/records/relations'
import { REASONS } from '@/core/records/suppression'

export const DAY = 86_400_000
export const ASOF = Date.UTC(2026, 5, 15, 10)
export const MOMENT: Moment = { asOf: ASOF, zone: 'Europe/London' }

export const ACTORS = ['ines', 'tam'] as const
const ROLES = [
  'Secretary to the head of estates',
  'Deputy Director',
  '???',
  'Estates Manager',
  'head of facilities',
  'Trainee Estates Officer',
  'Bursar',
  'Facilities & Estates Lead',
  'Directrice générale',
  'caretaker',
]
const TOWNS = ['Thornmouth', 'Low Wendle', 'Kettlehythe']
const POSTCODES = ['PW1 2AB', 'PW12 3CD', 'PW2 1ZZ']

const INDUSTRIES = ['school', 'Clinic', 'brewery']
const COUNTIES = ['Pellow', 'Marle']
const TAGS = ['large roof', 'newsletter']

/** A record of which nothing is known. */
export const blank: PersonRecord = {
  id: 1,
  given: '',
  family: '',
  role: null,
  organisation: null,
  premises: null,
  county: null,
  town: null,
  postcode: null,
  street: null,
  relation: null,
  tags: [],
  custom: {},
  addresses: [],
  contacts: [],
  toCome: [],
  suppressions: [],
  batches: [],
  rounds: [],
  sortKey: '',
}

/** The same of an organisation and of premises. */
const bare = { id: 1, county: null, town: null, postcode: null, street: null, custom: {}, batches: [], sortKey: '' }
export const blankOrganisation: OrganisationRecord = {
  ...bare,
  name: 'Works',
  industry: null,
  headCount: null,
  domain: null,
  premises: null,
}
export const blankPremises: PremisesRecord = {
  ...bare,
  name: 'House',
  kind: null,
  position: null,
  roofArea: null,
  yearBuilt: null,
  ownerKind: null,
  ownerKey: null,
  ownerLives: null,
  ownerPerson: null,
  ownerOrganisation: null,
}

const suppression = fc.record({
  id: fc.integer({ min: 1, max: 999 }),
  reason: fc.constantFrom(...REASONS),
  channels: fc.subarray([...CHANNELS], { minLength: 1 }),
  since: fc.integer({ min: ASOF - 90 * DAY, max: ASOF + 5 * DAY }),
  until: fc.option(fc.integer({ min: ASOF - 20 * DAY, max: ASOF + 90 * DAY })),
})

const few = <T>(of: fc.Arbitrary<T>, most: number) => fc.array(of, { maxLength: most })

const STREETS = ['12 Mill Lane', '13 Mill Ln', '7a Weir Street', 'Old Maltings', '1 Station Road, Unit 4']
const MONTHS = ['2016-02-29', '2023-06-15', '2024-06-15', '2025-12-15', '2026-05-16', '2026-06-01']
const place = {
  county: fc.option(fc.constantFrom(...COUNTIES)),
  town: fc.option(fc.constantFrom(...TOWNS)),
  postcode: fc.option(fc.constantFrom(...POSTCODES)),
  street: fc.option(fc.constantFrom(...STREETS)),
}
const batches = fc.uniqueArray(fc.integer({ min: 1, max: 3 }), { maxLength: 2 })
const sortKey = fc.constantFrom('adder a', 'brook b', 'croft c', 'dell d')
const values = (of: Record<number, fc.Arbitrary<string>>) => fc.record(of, { requiredKeys: [] }) as fc.Arbitrary<CustomValues>
const numbers = (...of: number[]) => fc.constantFrom(...of.map(String))
const yesNo = fc.constantFrom('yes', 'no')

/** Any premises, in and around the squares and circles of the areas. */
export const premises: fc.Arbitrary<Omit<PremisesRecord, 'id'>> = fc.record({
  name: fc.constantFrom('Old Maltings', 'Weir House'),
  kind: fc.option(fc.constantFrom('school', 'house')),
  position: fc.option(
    fc.record({ lat: fc.double({ min: 55.2, max: 55.4, noNaN: true }), lon: fc.double({ min: 1.4, max: 1.6, noNaN: true }) }),
  ),
  roofArea: fc.option(fc.constantFrom(0, 80, 450, 2000)),
  yearBuilt: fc.option(fc.constantFrom(1790, 1964, 2019)),
  ownerKind: fc.option(fc.constantFrom(...OWNER_KINDS)),
  ownerKey: fc.option(fc.constantFrom('a', 'b', 'c')),
  ownerLives: fc.option(fc.constantFrom(...OWNER_LIVES)),
  ownerPerson: fc.option(fc.integer({ min: 1, max: 70 })),
  ownerOrganisation: fc.option(fc.integer({ min: 1, max: 13 })),
  ...place,
  batches,
  sortKey,
  custom: values({
    [FIELD.floorArea]: numbers(90, 400),
    [FIELD.bedrooms]: numbers(0, 3),
    [FIELD.transferDate]: fc.constantFrom(...MONTHS),
    [FIELD.price]: numbers(150_000, 400_000),
    [FIELD.withoutLoan]: yesNo,
    [FIELD.value]: numbers(0, 300_000, 400_000),
    [FIELD.loan]: numbers(0, 160_000, 240_000, 500_000),
    [FIELD.listed]: yesNo,
    [FIELD.likely]: fc.constantFrom(...LIKELY),
    [FIELD.premisesCountry]: fc.constant('Marle'),
  }),
})

/** Any organisation; those who count its people are added by `counted`. */
export const organisation: fc.Arbitrary<Omit<OrganisationRecord, 'id'>> = fc.record({
  name: fc.constantFrom('North School', 'Sedge Brewery', 'The Fen Estates Co-operative'),
  industry: fc.option(fc.constantFrom(...INDUSTRIES)),
  headCount: fc.option(fc.constantFrom(0, 1, 9, 10, 49, 50, 249, 250, 999, 1000, 40_000)),
  domain: fc.option(fc.constantFrom('north-school.example', 'sedge.example')),
  premises: fc.option(fc.integer({ min: 1, max: 13 })),
  ...place,
  batches,
  sortKey,
  custom: values({
    [FIELD.description]: fc.constantFrom('Brews ale and cleans casks', 'A school with a walled garden'),
    [FIELD.industryCode]: fc.constantFrom('NAICS 312120', 'NAICS 611110', 'NACE C11.05'),
    [FIELD.legalKind]: fc.constantFrom(...LEGAL_KINDS),
    [FIELD.counted]: numbers(3, 70),
    [FIELD.growth]: numbers(-4, 0, 12.5),
    [FIELD.revenue]: numbers(90_000, 2_000_000),
    [FIELD.founded]: numbers(1870, 2015),
    [FIELD.seat]: fc.constantFrom(...SEATS),
    [FIELD.orgCountry]: fc.constant('Marle'),
  }),
})

/** Twelve premises and twelve organisations that stand still, so that people of any directory can be at them. The last of each is not live. */
export const PREMISES: PremisesRecord[] = fc.sample(premises, { seed: 5, numRuns: 12 }).map((p, i) => ({ ...p, id: i + 1 }))
for (const p of PREMISES)
  p.holdings = PREMISES.filter((o) => o.id < 12 && o.ownerKey === p.ownerKey).map((o) => o.custom[FIELD.transferDate] ?? null)
const livePremises = (id: number | null) => PREMISES.find((p) => p.id === id && p.id < 12) ?? null
export const ORGANISATIONS: OrganisationRecord[] = fc
  .sample(organisation, { seed: 6, numRuns: 12 })
  .map((o, i) => ({ ...o, id: i + 1, at: livePremises(o.premises) }))
const liveOrganisation = (id: number | null) => ORGANISATIONS.find((o) => o.id === id && o.id < 12) ?? null

const address = fc
  .record({
    id: fc.integer({ min: 1, max: 9999 }),
    channel: fc.constantFrom(...SCREENED),
    usable: fc.boolean(),
    failedAt: fc.option(fc.constant(ASOF - 9 * DAY)),
    shared: fc.boolean(),
    place: fc.nat(3),
    checkedAt: fc.option(fc.integer({ min: ASOF - 200 * DAY, max: ASOF })),
    suppressions: few(suppression, 2),
  })
  .map(({ shared, place: at, checkedAt, ...a }): PersonRecord['addresses'][number] =>
    a.channel === 'post'
      ? a
      : {
          ...a,
          traits: { shared, state: (a.channel === 'email' ? EMAIL_STATES : PHONE_STATES)[at] },
          checkedAt: a.channel === 'email' ? checkedAt : null,
        },
  )

/** Any record at all: values missing, addresses unusable, suppressions not yet or no longer in force. */
export const person: fc.Arbitrary<Omit<PersonRecord, 'id'>> = fc
  .record({
    given: fc.constantFrom('Maud', 'Zoë', 'Jo'),
    family: fc.constantFrom('Ellery', 'van der Hoek', 'Élan'),
    role: fc.option(fc.constantFrom(...ROLES)),
    organisation: fc.option(fc.integer({ min: 1, max: 13 })),
    premises: fc.option(fc.integer({ min: 1, max: 13 })),
    tags: fc.subarray(TAGS),
    custom: values({
      1: fc.constantFrom('A large roof', 'no roofs'),
      2: fc.constantFrom('-3.5', '12', '100'),
      3: fc.constantFrom('2026-03-01', '2025-12-31'),
      4: yesNo,
      [FIELD.about]: fc.constantFrom('Keeps the roofs and gutters of a large school', 'Gutters, never roofs'),
      [FIELD.languages]: fc.constantFrom('English', 'Welsh; English'),
      [FIELD.inRoleSince]: fc.constantFrom(...MONTHS),
      [FIELD.joined]: fc.constantFrom(...MONTHS),
      [FIELD.earlier]: fc.constantFrom('Brackenfold Rainworks; North School', 'Sedge Brewery'),
      [FIELD.part]: fc.constantFrom(...PARTS),
      [FIELD.acquaintance]: fc.constantFrom(...ACQUAINTANCE),
      [FIELD.direct]: fc.constantFrom(...DIRECT),
      [FIELD.holder]: fc.constantFrom('Ines', 'Tam'),
      [FIELD.region]: fc.constant('North'),
    }),
    ...place,
    relation: fc.option(fc.constantFrom(...RELATIONS)),
    addresses: few(address, 5),
    contacts: few(
      fc.record({
        at: fc.integer({ min: ASOF - 200 * DAY, max: ASOF }),
        channel: fc.constantFrom(...WAYS),
        by: fc.constantFrom(...ACTORS),
        result: fc.option(fc.constantFrom(...ALL_RESULTS, 'left a card')),
      }),
      4,
    ),
    toCome: few(
      fc.record({ round: fc.integer({ min: 1, max: 3 }), channel: fc.constantFrom(...SCREENED), since: fc.constant(ASOF - 3 * DAY) }),
      2,
    ),
    suppressions: few(suppression, 1),
    batches,
    rounds: fc.uniqueArray(
      fc.record({ list: fc.integer({ min: 7, max: 8 }), number: fc.integer({ min: 1, max: 3 }), clear: fc.boolean() }),
      { maxLength: 3, selector: (s) => `${s.list}|${s.number}` },
    ),
    changedAt: fc.option(fc.integer({ min: ASOF - 90 * DAY, max: ASOF })),
    sortKey,
  })
  .map((p) => ({ ...p, employer: liveOrganisation(p.organisation), at: livePremises(p.premises) }))

/** A directory of people with ids from 1, each with their organisation, which knows how many it has. */
export const directory: fc.Arbitrary<PersonRecord[]> = fc
  .array(person, { minLength: 1, maxLength: 60 })
  .map((people) => counted(people.map((p, i) => ({ ...p, id: i + 1 }))))

function counted(people: PersonRecord[]): PersonRecord[] {
  return people.map((p) =>
    p.employer ? { ...p, employer: { ...p.employer, people: people.filter((o) => o.organisation === p.organisation).length } } : p,
  )
}

export function columnsOf(people: PersonRecord[]): PeopleColumns {
  const directory = new Directory()
  const columns = directory.people
  for (const p of people) columns.put(p)
  for (const o of ORGANISATIONS) directory.organisations.put(o)
  directory.organisations.remove(12)
  for (const p of PREMISES) directory.premises.put(p)
  directory.premises.remove(12)
  for (const list of [7, 8]) {
    for (const number of [1, 2, 3]) {
      const seats = people.flatMap((p) =>
        p.rounds.filter((r) => r.list === list && r.number === number).map((r) => ({ id: p.id, clear: r.clear })),
      )
      columns.putRound(list, number, {
        listed: columns.numbers(seats.map((s) => s.id)),
        clear: columns.numbers(seats.filter((s) => s.clear).map((s) => s.id)),
      })
    }
  }
  return columns
}

/** A square with a hole, a circle, and a street on either side. */
export const AREAS: AreaShape[] = [
  {
    polygons: [
      [
        [
          [1.42, 55.22],
          [1.52, 55.22],
          [1.52, 55.33],
          [1.42, 55.33],
        ],
        [
          [1.45, 55.25],
          [1.48, 55.25],
          [1.48, 55.28],
        ],
      ],
    ],
    circles: [],
    streets: [],
  },
  { polygons: [], circles: [{ lat: 55.3, lon: 1.5, metres: 6000 }], streets: [{ street: 'Mill Lane', from: 13, to: null, side: 'odd' }] },
  {
    polygons: [],
    circles: [],
    streets: [
      { street: 'weir st', from: null, to: 8, side: 'both' },
      { street: 'Old Maltings', from: null, to: null, side: 'both' },
    ],
  },
]

/** Another list that is named: ids divisible by three. Two sets of people who were picked: even ids, and the first ten. */
const NAMED = { 'list:50:latest': (id: number) => id % 3 === 0, 'pick:1': (id: number) => id % 2 === 0, 'pick:2': (id: number) => id <= 10 }

/** The moment with everything that generated lines name at hand. */
export function momentFor(columns: PeopleColumns): Moment {
  const members = new Map(
    Object.entries(NAMED).map(([key, has]) => [
      key,
      { has, set: columns.numbers(Array.from({ length: 80 }, (_, i) => i + 1).filter(has)) },
    ]),
  )
  return { ...MOMENT, lastRounds: { 7: 2 }, members, areas: new Map(AREAS.map((shape, i) => [i + 1, shape])) }
}
export const pickedHas = (line: Extract<Line, { verb: 'pick' }>, id: number): boolean => NAMED[pickKey(line) as 'pick:1'](id)

export const criterion: fc.Arbitrary<Criterion> = fc.oneof(
  fc
    .uniqueArray(fc.constantFrom('estates', 'facility', 'trainee', 'head of facilities', 'directrice generale'), {
      minLength: 1,
      maxLength: 3,
    })
    .map((any) => ({ kind: 'role' as const, any })),
  fc.constantFrom<Criterion>(
    { kind: 'role', any: ['estates', 'facilities'], not: ['trainee', 'secretary to'] },
    { kind: 'role', any: ['head of estates'], not: [], named: { id: 1, name: 'head of estates' } },
  ),
  fc
    .record({ towns: fc.subarray([...TOWNS, 'LOW  WENDLE']), postcodes: fc.subarray(['PW1', 'pw12 3', 'PW']) })
    .filter((p) => p.towns.length + p.postcodes.length > 0)
    .map((p) => ({ kind: 'place' as const, ...p })),
  fc.constantFrom(...SCREENED).map((channel) => ({ kind: 'reach' as const, channel })),
  fc.subarray([...RELATIONS], { minLength: 1 }).map((any) => ({ kind: 'relation' as const, any })),
  fc.subarray([...LEVELS], { minLength: 1 }).map((any) => ({ kind: 'level' as const, any })),
  fc.subarray([...FUNCTIONS], { minLength: 1 }).map((any) => ({ kind: 'function' as const, any })),
  fc
    .record({
      by: fc.option(fc.constantFrom(...ACTORS).map((id) => ({ id, name: id }))),
      how: fc.constantFrom('never' as const, 'before' as const, 'within' as const),
      days: fc.integer({ min: 1, max: 150 }),
      ways: fc.option(fc.subarray([...WAYS], { minLength: 1 }), { nil: undefined }),
    })
    .map(({ by, how, days, ways }) => ({
      kind: 'contacted' as const,
      how,
      by,
      ...(ways ? { ways } : {}),
      ...(how === 'within' ? { days } : how === 'before' ? { date: '2026-04-01' } : {}),
    })),
  fc.subarray([...INDUSTRIES, 'CLINIC'], { minLength: 1 }).map((any) => ({ kind: 'industry' as const, any })),
  fc.subarray(COUNTIES, { minLength: 1 }).map((any) => ({ kind: 'county' as const, any })),
  fc.subarray(TAGS, { minLength: 1 }).map((any) => ({ kind: 'tag' as const, any })),
  fc.constantFrom<Criterion>(
    { kind: 'custom', field: { id: 1, name: 'Roof', of: 'text' }, any: ['roof', 'large roof'].slice(1), least: null, most: null },
    { kind: 'custom', field: { id: 2, name: 'Beds', of: 'number' }, any: [], least: '-3.5', most: '50' },
    { kind: 'custom', field: { id: 3, name: 'Seen', of: 'date' }, any: [], least: '2026-01-01', most: null },
    { kind: 'custom', field: { id: 4, name: 'Garden', of: 'yes or no' }, any: ['yes'], least: null, most: null },
    { kind: 'custom', field: { id: 5, name: 'Never used', of: 'choice' }, any: ['a'], least: null, most: null },
  ),
  fc.subarray(BAND_NAMES, { minLength: 1 }).map((any) => ({ kind: 'head-count' as const, any })),
  fc.integer({ min: 1, max: 4 }).map((id) => ({ kind: 'batch' as const, batch: { id, name: `batch ${id}` } })),
  fc
    .record({
      list: fc.integer({ min: 7, max: 9 }),
      which: fc.constantFrom('any' as const, 'last' as const, 1, 3),
      stood: fc.constantFrom('listed' as const, 'clear' as const, 'held back' as const),
    })
    .map(({ list, ...rest }) => ({ kind: 'round' as const, list: { id: list, name: `list ${list}` }, ...rest })),
  fc.constant({ kind: 'list' as const, list: { id: 50, name: 'another' }, edition: null }),
  fc.constant<Criterion>({ kind: 'any-list', lists: [{ id: 50, name: 'another' }] }),
  fc
    .subarray([1, 2, 3], { minLength: 1 })
    .map((ids): Criterion => ({ kind: 'area', areas: ids.map((id) => ({ id, name: `area ${id}` })) })),
  fc.integer({ min: 1, max: 20_000 }).map((metres): Criterion => ({ kind: 'near', metres, lat: 55.3, lon: 1.5, name: '' })),
  fc.constantFrom<Criterion>(
    { kind: 'street', streets: [{ street: 'Mill Lane', from: 12, to: 12, side: 'both' }] },
    {
      kind: 'street',
      streets: [
        { street: 'Weir Street', from: null, to: null, side: 'odd' },
        { street: 'station road', from: null, to: null, side: 'both' },
      ],
    },
  ),
  fc
    .record({
      ways: fc.subarray([...REACHES], { minLength: 1, maxLength: 4 }),
      wanted: fc.constantFrom('any' as const, 'all' as const),
      checkedWithin: fc.option(fc.constant(90)),
    })
    .map((c): Criterion => ({ kind: 'reachable', ...c })),
  fc
    .record({
      least: fc.option(fc.nat(2)),
      most: fc.option(fc.integer({ min: 2, max: 4 })),
      days: fc.option(fc.constant(100)),
      results: fc.subarray(['spoke', 'sent'] as const),
      by: fc.option(fc.constantFrom(...ACTORS).map((id) => ({ id, name: id }))),
    })
    .filter((c) => c.least !== null || c.most !== null)
    .map((c): Criterion => ({ kind: 'contact-count', ...c })),
  fc
    .record({
      sign: fc.constantFrom('interest' as const, 'answer' as const),
      how: fc.constantFrom('never' as const, 'within' as const, 'longer ago' as const),
    })
    .map((c): Criterion => ({ kind: 'interest', ...c, days: c.how === 'never' ? null : 90 })),
  fc
    .record({
      as: fc.constantFrom('equity' as const, 'loan-to-value' as const),
      least: fc.option(fc.constantFrom(40, 60)),
      most: fc.option(fc.constantFrom(60, 100)),
    })
    .filter((c) => c.least !== null || c.most !== null)
    .map((c): Criterion => ({ kind: 'equity', ...c })),
  fc
    .record({ least: fc.constantFrom(1, 2), most: fc.option(fc.constantFrom(2, 3)), months: fc.option(fc.constantFrom(12, 36)) })
    .map((c): Criterion => ({ kind: 'holdings', ...c })),
  fc.constantFrom(...Object.entries(CRITERIA).flatMap(([kind, { form }]): Criterion[] => factsOf(kind, form))),
)

/** Some questions of each kind of criterion that is one fact, by the form it is asked with. */
function factsOf(kind: string, form: Form | undefined): Criterion[] {
  const made = (): object[] => {
    switch (form?.of) {
      case 'choices':
        return [{ any: form.all.slice(0, 1) }, { any: form.all.slice(1, 3) }]
      case 'words':
        if (kind === 'industry-code') return [{ any: ['NAICS 61'] }, { any: ['C', '31'] }]
        return [
          { any: ['english', 'ines', 'sedge brewery', 'north', 'MARLE', 'house'] },
          { any: ['Brackenfold Rainworks', 'sedge.example', 'nobody'] },
        ]
      case 'says':
        return [
          { any: ['gutter', 'school'], all: [], none: ['never'] },
          { any: [], all: ['roof', 'large'], none: [] },
          { any: ['walled garden', 'estates'], all: [], none: [] },
        ]
      case 'range':
        return [
          { least: 3, most: null },
          { least: null, most: 400 },
          { least: 0, most: 2000 },
        ]
      case 'time':
        return [
          { least: 12, most: null, from: null, to: null },
          { least: null, most: 24, from: null, to: null },
          { least: null, most: null, from: '2024-06-15', to: '2026-05-16' },
        ]
      default:
        return []
    }
  }
  return made().map((rest) => ({ kind, ...rest }) as Criterion)
}

const off = fc.boolean()
const criterionLine = fc
  .record({ verb: fc.constantFrom('keep' as const, 'drop' as const, 'add' as const), off, unknownAsYes: fc.boolean(), criterion })
  .map((l) => ({ ...l, unknownAsYes: l.verb === 'keep' && l.unknownAsYes }))
const limitLine = fc.record({
  verb: fc.constant('limit' as const),
  off,
  most: fc.integer({ min: 1, max: 20 }),
  per: fc.constantFrom(...PERS),
  rank: fc.constantFrom(...RANKS),
  seed: fc.nat(9),
})
const pickLine = fc.record({
  verb: fc.constant('pick' as const),
  off,
  side: fc.constantFrom('in' as const, 'out' as const),
  set: fc.constantFrom({ id: 1, count: 30 }, { id: 2, count: 10 }),
  names: fc.constant(['Maud Ellery']),
  reason: fc.constant(''),
  until: fc.option(fc.constantFrom('2026-06-14', '2026-06-15')),
  by: fc.constant('Ines Okafor'),
})

const pageOf = (line: fc.Arbitrary<Record<string, unknown> & { off: boolean }>): fc.Arbitrary<Line[]> =>
  fc
    .tuple(fc.option(fc.integer({ min: 1, max: 4 }).map((id) => ({ id, name: `batch ${id}` }))), fc.array(line, { maxLength: 7 }))
    .map(([batch, lines]) => [
      { id: 'start', verb: 'start' as const, off: false, batch },
      ...lines.map((l, i) => ({ ...l, off: l.off && i % 2 === 0, id: `line-${i}` }) as Line),
    ])

/** A page of lines that can be read for one record alone: a start, then any but limits, some of them switched off. */
export const plainPage = pageOf(fc.oneof({ weight: 4, arbitrary: criterionLine }, { weight: 1, arbitrary: pickLine }))
/** A whole page: any lines. */
export const page = pageOf(
  fc.oneof({ weight: 5, arbitrary: criterionLine }, { weight: 1, arbitrary: pickLine }, { weight: 1, arbitrary: limitLine }),
)

export const rules: fc.Arbitrary<Rule[]> = fc
  .record({
    version: fc.option(fc.constantFrom('2026-06-01', '2026-04-01')),
    off: fc.boolean(),
    days: fc.integer({ min: 1, max: 120 }),
    closes: fc.constantFrom('every channel' as const, 'the same channel' as const),
    ways: fc.option(fc.subarray([...WAYS], { minLength: 1 }), { nil: undefined }),
  })
  .map(({ version, off, days, closes, ways }) => [
    { kind: 'no-way-to-reach' },
    { kind: 'asked-to-stop' },
    { kind: 'register', version, goodFor: 31 },
    { kind: 'address-failed', off: days % 3 === 0 },
    { kind: 'customers', off, relations: ['customer', 'our own people'] },
    { kind: 'contacted-within', off: false, days, closes, ...(ways ? { ways } : {}) },
    { kind: 'another-round', off: days % 5 === 0, closes },
  ])

/** Whom somebody let through, by which channel. */
export const letThrough = fc.array(fc.record({ person: fc.integer({ min: 1, max: 60 }), channel: fc.constantFrom(...SCREENED) }), {
  maxLength: 20,
})

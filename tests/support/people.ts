import fc from 'fast-check'
import { OWNER_KINDS } from '@/core/clean/premises'
import { ACQUAINTANCE, BASES, DIRECT, FIELD, LEGAL_KINDS, LIKELY, PARTS, SEATS } from '@/core/clean/standard-fields'
import { EMAIL_STATES, PHONE_STATES } from '@/core/records/address-state'
import { Directory } from '@/core/columns/directory'
import type { OrganisationRecord } from '@/core/records/organisation-record'
import type { PeopleColumns } from '@/core/columns/people-columns'
import { OWNER_LIVES, type PremisesRecord } from '@/core/records/premises-record'
import type { ContactAround, GroupOf, PersonRecord } from '@/core/records/person-record'
import type { CustomValues } from '@/core/clean/custom'
import type { Moment } from '@/core/criteria/kind'
import { ALL_RESULTS } from '@/core/records/results'
import { CHANNELS, WAYS } from '@/core/records/channels'
import { RELATIONS } from '@/core/records/relations'
import { REASONS } from '@/core/records/suppression'

import { CHANGE_STATES, type RecordChange } from '@/core/records/record-change'
import { datePlusDays } from '@/core/calendar/local-day'

export const DAY = 86_400_000
export const ASOF = Date.UTC(2026, 5, 15, 10)
export const MOMENT: Moment = { asOf: ASOF, zone: 'Europe/London' }

/** The second round of list 7 was its last, released forty days ago. */
export const ROUNDS = { lastRounds: { 7: 2 }, releasedAt: { 7: ASOF - 40 * DAY } }

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
export const TOWNS = ['Thornmouth', 'Low Wendle', 'Kettlehythe']
const POSTCODES = ['PW1 2AB', 'PW12 3CD', 'PW2 1ZZ']

export const INDUSTRIES = ['school', 'Clinic', 'brewery']
export const COUNTIES = ['Pellow', 'Marle']
export const TAGS = ['large roof', 'newsletter']

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

const change: fc.Arbitrary<RecordChange> = fc
  .record({
    kind: fc.constantFrom(1, 2, 3),
    asks: fc.constantFrom('confirm' as const, 'answer' as const, 'reconsider' as const, 'opening' as const),
    by: fc.constantFrom('2026-01-01', '2026-05-16', '2026-06-09', '2026-06-10', '2026-06-15'),
    long: fc.option(fc.constantFrom(1, 6, 40)),
    learnedAt: fc.integer({ min: ASOF - 120 * DAY, max: ASOF }),
    state: fc.constantFrom(...CHANGE_STATES),
    sources: fc.constantFrom('county wire', 'contacts', 'contacts\nand\ncounty wire', 'permits.csv'),
    text: fc.constantFrom(null, 'Roof torn off in the storm', 'Estates manager', 'The roofs of two clinics'),
  })
  .map(({ long, ...c }) => ({ ...c, after: long === null ? null : datePlusDays(c.by, -long) }))
/** Changes of a record; most have none. */
const changes = fc.oneof(fc.constant([]), fc.array(change, { maxLength: 3 }))

const few = <T>(of: fc.Arbitrary<T>, most: number) => fc.array(of, { maxLength: most })

const STREETS = ['12 Mill Lane', '13 Mill Ln', '7a Weir Street', 'Old Maltings', '1 Station Road, Unit 4']
const MONTHS = ['2016-02-29', '2023-06-15', '2024-06-15', '2025-12-15', '2026-05-16', '2026-06-01']
export const place = {
  county: fc.option(fc.constantFrom(...COUNTIES)),
  town: fc.option(fc.constantFrom(...TOWNS)),
  postcode: fc.option(fc.constantFrom(...POSTCODES)),
  street: fc.option(fc.constantFrom(...STREETS)),
}
const batches = fc.uniqueArray(fc.integer({ min: 1, max: 3 }), { maxLength: 2 })
const sortKey = fc.constantFrom('adder a', 'brook b', 'croft c', 'dell d')
const values = (of: Record<number, fc.Arbitrary<string>>) => fc.record(of, { requiredKeys: [] }) as fc.Arbitrary<CustomValues>
export const numbers = (...of: number[]) => fc.constantFrom(...of.map(String))
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
  changes,
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
  changes,
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

export const address = fc
  .record({
    id: fc.integer({ min: 1, max: 9999 }),
    channel: fc.constantFrom(...CHANNELS),
    usable: fc.boolean(),
    failedAt: fc.option(fc.constant(ASOF - 9 * DAY)),
    softAt: fc.option(
      fc.array(fc.integer({ min: ASOF - 40 * DAY, max: ASOF }), { maxLength: 4 }).map((at) => at.sort((a, b) => a - b)),
      { nil: undefined },
    ),
    shared: fc.boolean(),
    place: fc.nat(3),
    checkedAt: fc.option(fc.integer({ min: ASOF - 200 * DAY, max: ASOF })),
    suppressions: few(suppression, 2),
    // Few enough that people share addresses and numbers.
    key: fc.nat(9),
    country: fc.option(fc.constantFrom('GB', 'US', 'DE', 'CA')),
  })
  .map(({ shared, place: at, checkedAt, ...a }): PersonRecord['addresses'][number] =>
    a.channel === 'post' || a.channel === 'direct'
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
      [FIELD.lastPurchase]: fc.constantFrom('2024-12-15', '2024-12-14', '2026-06-16', 'no day'),
      [FIELD.lastInquiry]: fc.constantFrom('2026-03-15', '2026-03-14'),
      [FIELD.basis]: fc.constantFrom(...BASES),
      [FIELD.basisUntil]: fc.constantFrom('2026-06-15', '2026-06-14'),
    }),
    ...place,
    relation: fc.option(fc.constantFrom(...RELATIONS)),
    country: fc.option(fc.constantFrom('United Kingdom', 'us', 'Germany', 'Pellow')),
    offLimits: fc.option(fc.constant('the county’s own people')),
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
      fc.record({ round: fc.integer({ min: 1, max: 3 }), channel: fc.constantFrom(...CHANNELS), since: fc.constant(ASOF - 3 * DAY) }),
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
  return people.map((p) => ({
    ...p,
    ...(p.employer ? { employer: { ...p.employer, people: people.filter((o) => o.organisation === p.organisation).length } } : {}),
    around: aroundOf(people, p),
  }))
}

/** The contacts of others who count together with somebody, by the definition: one person after the other. */
function aroundOf(people: PersonRecord[], p: PersonRecord): ContactAround[] {
  const home = (o: PersonRecord) =>
    (o.organisation === null ? o.addresses.find((a) => a.channel === 'post' && a.usable && a.key) : undefined)?.key
  const of = (o: PersonRecord): GroupOf | null =>
    o.id === p.id
      ? null
      : p.organisation !== null && o.organisation === p.organisation
        ? 'organisation'
        : home(p) !== undefined && home(o) === home(p)
          ? 'household'
          : null
  return people.flatMap((o) => {
    const how = of(o)
    return how === null ? [] : o.contacts.map((contact) => ({ ...contact, person: o.id, of: how }))
  })
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

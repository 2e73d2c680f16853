import { describe, expect, test } from 'vitest'
import type { AreaShape } from '@/core/areas/shape'
import { FIELD } from '@/core/clean/standard-fields'
import { Directory } from '@/core/columns/directory'
import type { OrganisationRecord } from '@/core/records/organisation-record'
import type { Address, Contact, PersonRecord } from '@/core/records/person-record'
import type { PremisesRecord } from '@/core/records/premises-record'
import type { Moment } from '@/core/criteria/kind'
import { Answers, CRITERIA, type Criterion, type CriterionName, type CriterionOf, validCriterion, verdict } from '@/core/criteria/registry'
import { lineText } from '@/core/lists/line'
import { ASOF, blank, blankOrganisation as noOrganisation, blankPremises as noPremises, DAY, MOMENT } from '../../support/people'

/** What is told of one record; the rest of it is not known. */
interface Told {
  person: Partial<PersonRecord>
  organisation: Partial<OrganisationRecord>
  premises: Partial<PremisesRecord>
}

/** One question of a kind, how a line says it, and records whose answer can be told by reading them. */
interface Example<K extends CriterionName> {
  ask: Omit<CriterionOf<K>, 'kind'>
  line: string
  yes: Records<K>
  no: Records<K>
  /** Left out where the kind knows of everybody. */
  unknown?: Records<K>
}
type Records<K extends CriterionName> = ((typeof CRITERIA)[K]['of'] extends keyof Told
  ? Told[(typeof CRITERIA)[K]['of']]
  : Told['person'])[]

const roles = (...all: string[]) => all.map((role) => ({ role }))
const says = (field: number, ...all: string[]) => all.map((value) => ({ custom: { [field]: value } }))
const address = (of: Partial<Address>): Address => ({ id: 1, channel: 'email', usable: true, failedAt: null, suppressions: [], ...of })
const contact = (daysAgo: number, of: Partial<Contact> = {}): Contact => ({ at: ASOF - daysAgo * DAY, channel: 'phone', by: 'ines', ...of })
const contacts = (...all: Contact[]) => ({ contacts: all })
const ends = (least: number | null, most: number | null) => ({ least, most })
const time = (least: number | null, most: number | null, from: string | null = null, to: string | null = null) => ({
  least,
  most,
  from,
  to,
})

/** A square a kilometre or so wide, west of the circle. */
const SQUARE: AreaShape = {
  polygons: [
    [
      [
        [1.4, 55.2],
        [1.42, 55.2],
        [1.42, 55.21],
        [1.4, 55.21],
      ],
    ],
  ],
  circles: [],
  streets: [],
}
const at = (lat: number, lon: number) => ({ at: { ...noPremises, position: { lat, lon } } })

/**
 * Examples of every kind of criterion; a kind that has none does not compile. Today is 15 June 2026. Expected answers are read off
 * what each kind says it asks (docs/lists.md), with both ends of every range.
 */
const EXAMPLES: { [K in CriterionName]: Example<K> } = {
  role: {
    ask: { any: ['estates'], not: ['trainee'] },
    line: 'Keep role says estates in any wording but not trainee',
    yes: roles('Head of Estates', 'ESTATE officer'),
    no: roles('Trainee Estates Officer', 'Bursar'),
    unknown: [{}],
  },
  level: {
    ask: { any: ['head', 'deputy'] },
    line: 'Keep role is at the level of head or deputy',
    yes: roles('Head of Facilities', 'Deputy Bursar'),
    no: roles('Trainee Estates Officer', 'Estates Manager'),
    unknown: [{}],
  },
  function: {
    ask: { any: ['finance'] },
    line: 'Keep role is about finance',
    yes: roles('Finance Director'),
    no: roles('Head of Estates'),
    unknown: [{}],
  },
  'in-role': {
    ask: time(12, 24),
    line: 'Keep time in the role is 1 year to 2 years',
    yes: says(FIELD.inRoleSince, '2025-06-15', '2024-06-15', '2024-05-16'),
    no: says(FIELD.inRoleSince, '2025-06-16', '2024-05-15'),
    unknown: [{}],
  },
  joined: {
    ask: time(null, null, '2024-01-01', '2024-12-31'),
    line: 'Keep first day at the organisation was 1 Jan 2024 to 31 Dec 2024',
    yes: says(FIELD.joined, '2024-01-01', '2024-12-31'),
    no: says(FIELD.joined, '2023-12-31', '2025-01-01'),
    unknown: [{}],
  },
  earlier: {
    ask: { any: ['Sedge Brewery'] },
    line: 'Keep earlier employer was Sedge Brewery',
    yes: says(FIELD.earlier, 'North School; sedge brewery'),
    no: says(FIELD.earlier, 'North School', 'Old Sedge Brewery Tap'),
    unknown: [{}],
  },
  about: {
    ask: { any: ['roof'], all: [], none: ['gutter'] },
    line: 'Keep profile says roof but not gutter',
    yes: says(FIELD.about, 'Looks after the roofs'),
    no: says(FIELD.about, 'Roofs and gutters', 'Keeps bees'),
    unknown: [{}],
  },
  languages: {
    ask: { any: ['welsh'] },
    line: 'Keep language is welsh',
    yes: says(FIELD.languages, 'English; Welsh'),
    no: says(FIELD.languages, 'English'),
    unknown: [{}],
  },
  part: {
    ask: { any: ['decides', 'pays'] },
    line: 'Keep part in a decision is: decides or pays',
    yes: says(FIELD.part, 'decides', 'pays'),
    no: says(FIELD.part, 'uses'),
    unknown: [{}],
  },
  acquaintance: {
    ask: { any: ['met'] },
    line: 'Keep acquaintance with us is: met',
    yes: says(FIELD.acquaintance, 'met'),
    no: says(FIELD.acquaintance, 'not at all'),
    unknown: [{}],
  },
  relation: {
    ask: { any: ['customer'] },
    line: 'Keep relation to us is customer',
    yes: [{ relation: 'customer' }],
    no: [{ relation: 'former customer' }],
    unknown: [{}],
  },
  tag: {
    ask: { any: ['newsletter'] },
    line: 'Keep is tagged newsletter',
    yes: [{ tags: ['newsletter', 'vip'] }],
    no: [{ tags: ['vip'] }, {}],
  },
  holder: {
    ask: { any: ['Tam'] },
    line: 'Keep record is held by Tam',
    yes: says(FIELD.holder, 'Tam'),
    no: says(FIELD.holder, 'Ines'),
    unknown: [{}],
  },
  custom: {
    ask: { field: { id: 2, name: 'Beds', of: 'number' }, any: [], least: '-3.5', most: '12' },
    line: 'Keep “Beds” is -3.5 to 12',
    yes: says(2, '-3.5', '0', '12'),
    no: says(2, '-3.6', '12.1', '100'),
    unknown: [{}],
  },
  industry: {
    ask: { any: ['school'] },
    line: 'Keep organisation is a school',
    yes: [{ industry: 'School' }],
    no: [{ industry: 'brewery' }],
    unknown: [{}],
  },
  'industry-code': {
    ask: { any: ['NAICS 611'] },
    line: 'Keep industry’s code is in NAICS 611',
    yes: says(FIELD.industryCode, 'NAICS 611110'),
    no: says(FIELD.industryCode, 'NAICS 311'),
    unknown: [{}],
  },
  'org-name': {
    ask: { any: ['school'], all: [], none: [] },
    line: 'Keep organisation’s name says school',
    yes: [{ name: 'Schools of the North' }],
    no: [{ name: 'Sedge Brewery' }],
  },
  'org-domain': {
    ask: { any: ['sedge.example'] },
    line: 'Keep organisation’s domain is sedge.example',
    yes: [{ domain: 'sedge.example' }],
    no: [{ domain: 'notsedge.example' }],
    unknown: [{}],
  },
  'org-description': {
    ask: { any: [], all: ['brewing', 'water'], none: [] },
    line: 'Keep organisation’s description says all of brewing, water',
    yes: says(FIELD.description, 'Brews with spring water'),
    no: says(FIELD.description, 'Bottles water'),
    unknown: [{}],
  },
  'legal-kind': {
    ask: { any: ['charity'] },
    line: 'Keep organisation’s kind is charity',
    yes: says(FIELD.legalKind, 'charity'),
    no: says(FIELD.legalKind, 'company'),
    unknown: [{}],
  },
  'head-count': {
    ask: { any: ['50 to 249'] },
    line: 'Keep organisation has 50 to 249 people',
    yes: [{ headCount: 50 }, { headCount: 249 }],
    no: [{ headCount: 49 }, { headCount: 250 }],
    unknown: [{}],
  },
  counted: {
    ask: ends(10, 20),
    line: 'Keep organisation’s counted people are 10 to 20',
    yes: says(FIELD.counted, '10', '20'),
    no: says(FIELD.counted, '9', '21'),
    unknown: [{}],
  },
  growth: {
    ask: ends(5, null),
    line: 'Keep organisation’s growth in a year is 5 % or more',
    yes: says(FIELD.growth, '5', '60'),
    no: says(FIELD.growth, '4.9', '-12'),
    unknown: [{}],
  },
  revenue: {
    ask: ends(null, 2_000_000),
    line: 'Keep organisation’s revenue, the weaker figure, is £2,000,000 or less',
    yes: says(FIELD.revenue, '2000000'),
    no: says(FIELD.revenue, '2000001'),
    unknown: [{}],
  },
  founded: {
    ask: ends(1990, 1999),
    line: 'Keep organisation was founded in 1990 to 1999',
    yes: says(FIELD.founded, '1990', '1999'),
    no: says(FIELD.founded, '1989', '2000'),
    unknown: [{}],
  },
  seat: {
    ask: { any: ['seat'] },
    line: 'Keep organisation’s place is its seat',
    yes: says(FIELD.seat, 'seat'),
    no: says(FIELD.seat, 'site'),
    unknown: [{}],
  },
  'our-people': {
    ask: ends(1, null),
    line: 'Keep organisation’s people in the directory are 1 or more',
    yes: [{ people: 1 }],
    no: [{ people: 0 }],
  },
  place: {
    ask: { towns: ['Thornmouth'], postcodes: ['PW1'] },
    line: 'Keep is in Thornmouth or postcode PW1…',
    yes: [{ town: 'THORNMOUTH' }, { postcode: 'PW1 2AB' }],
    no: [{ town: 'Low Wendle', postcode: 'PW12 3CD' }],
    unknown: [{}, { town: 'Low Wendle' }],
  },
  county: {
    ask: { any: ['Pellow'] },
    line: 'Keep county is Pellow',
    yes: [{ county: 'pellow' }],
    no: [{ county: 'Marle' }],
    unknown: [{}],
  },
  district: {
    ask: { any: ['Weir'] },
    line: 'Keep district is Weir',
    yes: says(FIELD.district, 'Weir'),
    no: says(FIELD.district, 'Upper Weir'),
    unknown: [{}],
  },
  region: {
    ask: { any: ['North'] },
    line: 'Keep region is North',
    yes: says(FIELD.region, 'north'),
    no: says(FIELD.region, 'South'),
    unknown: [{}],
  },
  country: {
    ask: { any: ['IE'] },
    line: 'Keep country is IE',
    yes: says(FIELD.country, 'IE'),
    no: says(FIELD.country, 'FR'),
    unknown: [{}],
  },
  street: {
    ask: { streets: [{ street: 'Mill Lane', from: 12, to: 18, side: 'even' }] },
    line: 'Keep is on Mill Lane, even numbers 12 to 18',
    yes: [{ street: '12 Mill Ln' }, { street: '18 Mill Lane' }],
    no: [{ street: '13 Mill Lane' }, { street: '20 Mill Lane' }, { street: '12 Weir Street' }],
    unknown: [{}, { street: 'Mill Lane' }],
  },
  area: {
    ask: { areas: [{ id: 1, name: 'the square' }] },
    line: 'Keep is in the square',
    yes: [at(55.205, 1.41)],
    no: [at(55.205, 1.43), at(55.22, 1.41)],
    unknown: [{}],
  },
  near: {
    // On a sphere of 6,371 km a minute of arc of the meridian is 1,853 m.
    ask: { metres: 2000, lat: 55.2, lon: 1.4, name: 'the depot' },
    line: 'Keep is within 2,000 m of the depot',
    yes: [at(55.2, 1.4), at(55.2 + 1 / 60, 1.4)],
    no: [at(55.2 + 1.1 / 60, 1.4)],
    unknown: [{}],
  },
  'premises-kind': {
    ask: { any: ['warehouse'] },
    line: 'Keep premises are a warehouse',
    yes: [{ kind: 'Warehouse' }],
    no: [{ kind: 'house' }],
    unknown: [{}],
  },
  'roof-area': {
    ask: ends(400, null),
    line: 'Keep premises’ roof is 400 m² or more',
    yes: [{ roofArea: 400 }],
    no: [{ roofArea: 399.9 }],
    unknown: [{}],
  },
  'floor-area': {
    ask: ends(100, 100),
    line: 'Keep premises’ floor area is 100 m²',
    yes: says(FIELD.floorArea, '100'),
    no: says(FIELD.floorArea, '101'),
    unknown: [{}],
  },
  'year-built': {
    ask: ends(null, 1945),
    line: 'Keep premises were built in 1945 or earlier',
    yes: [{ yearBuilt: 1945 }],
    no: [{ yearBuilt: 1946 }],
    unknown: [{}],
  },
  bedrooms: {
    ask: ends(3, 4),
    line: 'Keep premises’ bedrooms are 3 to 4',
    yes: says(FIELD.bedrooms, '3', '4'),
    no: says(FIELD.bedrooms, '2', '5'),
    unknown: [{}],
  },
  'owner-kind': {
    ask: { any: ['trust'] },
    line: 'Keep premises’ owner is a trust',
    yes: [{ ownerKind: 'trust' }],
    no: [{ ownerKind: 'company' }],
    unknown: [{}],
  },
  'owner-lives': {
    ask: { any: ['elsewhere', 'abroad'] },
    line: 'Keep premises’ owner lives elsewhere or abroad',
    yes: [{ ownerLives: 'abroad' }],
    no: [{ ownerLives: 'there' }],
    unknown: [{}],
  },
  holdings: {
    ask: { least: 2, most: 3, months: null },
    line: 'Keep premises’ owner has 2 to 3 premises',
    yes: [
      { ownerKey: 'a', holdings: [null, null] },
      { ownerKey: 'a', holdings: [null, null, '2020-01-01'] },
    ],
    no: [{ ownerKey: 'a', holdings: [null] }],
    unknown: [{}],
  },
  held: {
    ask: time(120, null),
    line: 'Keep premises have been held for 10 years or more',
    yes: says(FIELD.transferDate, '2016-06-15', '1987-01-01'),
    no: says(FIELD.transferDate, '2016-06-16'),
    unknown: [{}],
  },
  price: {
    ask: ends(null, 250_000),
    line: 'Keep price at the last transfer was £250,000 or less',
    yes: says(FIELD.price, '250000'),
    no: says(FIELD.price, '250001'),
    unknown: [{}],
  },
  'without-loan': {
    ask: { any: ['yes'] },
    line: 'Keep purchase without a loan is said: yes',
    yes: says(FIELD.withoutLoan, 'yes'),
    no: says(FIELD.withoutLoan, 'no'),
    unknown: [{}],
  },
  value: {
    ask: ends(300_000, null),
    line: 'Keep premises’ value is £300,000 or more',
    yes: says(FIELD.value, '300000'),
    no: says(FIELD.value, '299999.99'),
    unknown: [{}],
  },
  loan: {
    ask: ends(null, 0),
    line: 'Keep loan on the premises is £0 or less',
    yes: says(FIELD.loan, '0'),
    no: says(FIELD.loan, '1'),
    unknown: [{}],
  },
  equity: {
    ask: { as: 'loan-to-value', ...ends(null, 80) },
    line: 'Keep loan-to-value is 80 % or less (equity 20 % or more)',
    yes: [{ custom: { [FIELD.value]: '200000', [FIELD.loan]: '160000' } }],
    no: [{ custom: { [FIELD.value]: '200000', [FIELD.loan]: '160002' } }],
    unknown: [{}, { custom: { [FIELD.loan]: '160000' } }],
  },
  listed: {
    ask: { any: ['no'] },
    line: 'Keep listing for sale is said: no',
    yes: says(FIELD.listed, 'no'),
    no: says(FIELD.listed, 'yes'),
    unknown: [{}],
  },
  likely: {
    ask: { any: ['likely', 'possible'] },
    line: 'Keep change of hands is likely or possible',
    yes: says(FIELD.likely, 'possible'),
    no: says(FIELD.likely, 'unlikely'),
    unknown: [{}],
  },
  reach: {
    ask: { channel: 'phone' },
    line: 'Keep has a usable phone number',
    yes: [{ addresses: [address({ channel: 'phone' })] }],
    no: [{}, { addresses: [address({})] }, { addresses: [address({ channel: 'phone', usable: false })] }],
  },
  reachable: {
    ask: { ways: ['a verified e-mail'], wanted: 'any', checkedWithin: 30 },
    line: 'Keep has a verified e-mail checked within 30 days',
    yes: [{ addresses: [address({ traits: { shared: false, state: 'verified' }, checkedAt: ASOF - 30 * DAY })] }],
    no: [
      {},
      { addresses: [address({ traits: { shared: false, state: 'verified' }, checkedAt: ASOF - 40 * DAY })] },
      { addresses: [address({ traits: { shared: false, state: 'uncertain' }, checkedAt: ASOF })] },
    ],
  },
  contacted: {
    ask: { how: 'within', days: 30, by: null },
    line: 'Keep was contacted within 30 days by anyone counting any channel',
    yes: [contacts(contact(30)), contacts(contact(400), contact(1))],
    no: [{}, contacts(contact(31)), contacts(contact(1, { channel: 'met' }))],
  },
  'contact-count': {
    ask: { ...ends(2, 3), days: 90, results: ['no answer'], by: null },
    line: 'Keep was contacted 2 to 3 times with the result no answer within 90 days by anyone counting any channel',
    yes: [contacts(contact(1, { result: 'no answer' }), contact(90, { result: 'no answer' }))],
    no: [{}, contacts(contact(1, { result: 'no answer' }), contact(91, { result: 'no answer' })), contacts(contact(1), contact(2))],
  },
  interest: {
    ask: { sign: 'answer', how: 'longer ago', days: 90 },
    line: 'Keep answered last more than 90 days ago',
    yes: [contacts(contact(91, { result: 'spoke' }), contact(1, { result: 'opened' }))],
    no: [{}, contacts(contact(90, { result: 'replied' })), contacts(contact(91, { result: 'opened' }))],
  },
  round: {
    ask: { list: { id: 7, name: 'Schools' }, which: 'last', stood: 'clear' },
    line: 'Keep was clear to contact in the last round of Schools',
    yes: [{ rounds: [{ list: 7, number: 2, clear: true }] }],
    no: [{}, { rounds: [{ list: 7, number: 1, clear: true }] }, { rounds: [{ list: 7, number: 2, clear: false }] }],
  },
  list: { ask: { list: { id: 50, name: 'Schools' }, edition: null }, line: 'Keep is on Schools', yes: [{ id: 3 }], no: [{ id: 4 }] },
  'any-list': { ask: { lists: [{ id: 50, name: 'Schools' }] }, line: 'Keep is on any of Schools', yes: [{ id: 6 }], no: [{ id: 7 }] },
  // The relational definition stands in subjects.test.ts: one record alone does not say to what it is linked.
  related: {
    ask: { how: 'works at', list: { id: 50, name: 'Mills' }, role: [], metres: null },
    line: 'Keep works at an organisation of Mills',
    yes: [],
    no: [],
  },
  batch: {
    ask: { batch: { id: 4, name: 'fair.csv' } },
    line: 'Keep was in the file fair.csv',
    yes: [{ batches: [2, 4] }],
    no: [{ batches: [2] }, {}],
  },
}

/** The columns of one record, and what the moment has at hand beside them. */
function columnsOf(of: keyof Told, told: object, under?: OrganisationRecord | PremisesRecord) {
  const directory = new Directory()
  if (of === 'organisation') directory.organisations.put({ ...noOrganisation, ...told })
  else if (of === 'premises') directory.premises.put({ ...noPremises, id: 1, ...told })
  else directory.people.put({ ...blank, premises: under ? 1 : null, ...told } as PersonRecord)
  if (of === 'person' && under) directory.premises.put(under as PremisesRecord)
  return directory
}

function momentFor(directory: Directory, record: PersonRecord): Moment {
  const members = new Map([
    ['list:50:latest', { has: (id: number) => id % 3 === 0, set: directory.people.numbers([3, 6, 9].filter((id) => id === record.id)) }],
  ])
  for (const number of [1, 2]) {
    const seats = record.rounds.filter((seat) => seat.number === number)
    const numbers = directory.people.numbers(seats.map(() => record.id))
    directory.people.putRound(7, number, {
      listed: numbers,
      clear: directory.people.numbers(seats.filter((s) => s.clear).map(() => record.id)),
    })
  }
  return { ...MOMENT, lastRounds: { 7: 2 }, areas: new Map([[1, SQUARE]]), members }
}

describe.each(Object.entries(EXAMPLES))('%s', (kind, example: Example<CriterionName>) => {
  const criterion = validCriterion({ kind, ...example.ask }) as Criterion
  const of = CRITERIA[kind as CriterionName].of
  const subject = of === 'any' ? 'person' : of

  test('its line reads as it is meant', () => {
    expect(lineText({ id: 'x', verb: 'keep', off: false, unknownAsYes: false, criterion })).toBe(example.line)
  })

  test('what is read from the page comes back as the same criterion', () => {
    expect(validCriterion(JSON.parse(JSON.stringify(criterion)))).toEqual(criterion)
  })

  const cases = (['yes', 'no', 'unknown'] as const).flatMap((answer) =>
    (example[answer] ?? []).map((told): [string, string, object] => [answer, JSON.stringify(told), told]),
  )
  test.runIf(cases.length > 0).each(cases)('%s: %s', (answer, _, told) => {
    const empty = subject === 'organisation' ? noOrganisation : subject === 'premises' ? noPremises : blank
    const record = { ...empty, ...told } as PersonRecord
    const directory = columnsOf(subject, told, record.at ?? undefined)
    if (subject === 'organisation' && (told as { people?: number }).people)
      directory.people.put({ ...blank, id: 1, organisation: record.id })
    if (subject === 'premises' && record.custom)
      for (let i = 1; i < ((told as { holdings?: unknown[] }).holdings?.length ?? 0); i++)
        directory.premises.put({ ...noPremises, ...told, id: 1 + i } as PremisesRecord)
    const moment = momentFor(directory, { ...blank, ...record, rounds: record.rounds ?? [] })
    expect(verdict(criterion, record, moment, subject), 'one record alone').toBe(answer)
    const columns = directory.of(subject)
    const n = columns.numberFor(record.id) as number
    const { yes, unknown } = new Answers(directory).of(criterion, moment, subject)
    expect(yes.has(n) ? 'yes' : unknown.has(n) ? 'unknown' : 'no', 'over columns').toBe(answer)
  })
})

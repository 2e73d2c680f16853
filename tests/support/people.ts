import fc from 'fast-check'
import { PeopleColumns } from '@/core/columns/people-columns'
import { CHANNELS, type PersonRecord, REASONS, RELATIONS, SCREENED, WAYS } from '@/core/columns/person-record'
import type { CustomValues } from '@/core/clean/custom'
import { FUNCTIONS, LEVELS } from '@/core/clean/role'
import { BAND_NAMES } from '@/core/criteria/head-count'
import type { Moment } from '@/core/criteria/kind'
import type { Criterion } from '@/core/criteria/registry'
import { type Line, pickKey } from '@/core/lists/line'
import { RANKS } from '@/core/lists/rank'
import type { Rule } from '@/core/screening/rules'

export const DAY = 86_400_000
export const ASOF = Date.UTC(2026, 5, 15, 10)
export const MOMENT: Moment = { asOf: ASOF, zone: 'Europe/London' }

export const ACTORS = ['ines', 'tam'] as const
const ROLES = ['Secretary to the head of estates', 'Deputy Director', '???', 'Estates Manager', 'head of facilities', 'Trainee Estates Officer', 'Bursar', 'Facilities & Estates Lead', 'Directrice générale', 'caretaker']
const TOWNS = ['Thornmouth', 'Low Wendle', 'Kettlehythe']
const POSTCODES = ['PW1 2AB', 'PW12 3CD', 'PW2 1ZZ']

const INDUSTRIES = ['school', 'Clinic', 'brewery']
const COUNTIES = ['Pellow', 'Marle']
const TAGS = ['large roof', 'newsletter']

/** A record of which nothing is known. */
export const blank: PersonRecord = {
  id: 1, given: '', family: '', role: null, organisation: null, organisationName: null, industry: null, headCount: null, county: null, town: null, postcode: null, relation: null, tags: [], custom: {},
  addresses: [], contacts: [], toCome: [], suppressions: [], batches: [], rounds: [], sortKey: '',
}

const suppression = fc.record({
  id: fc.integer({ min: 1, max: 999 }),
  reason: fc.constantFrom(...REASONS),
  channels: fc.subarray([...CHANNELS], { minLength: 1 }),
  since: fc.integer({ min: ASOF - 90 * DAY, max: ASOF + 5 * DAY }),
  until: fc.option(fc.integer({ min: ASOF - 20 * DAY, max: ASOF + 90 * DAY })),
})

const few = <T>(of: fc.Arbitrary<T>, most: number) => fc.array(of, { maxLength: most })

/** Any record at all: values missing, addresses unusable, suppressions not yet or no longer in force. */
export const person: fc.Arbitrary<Omit<PersonRecord, 'id'>> = fc.record({
  given: fc.constantFrom('Maud', 'Zoë', 'Jo'),
  family: fc.constantFrom('Ellery', 'van der Hoek', 'Élan'),
  organisationName: fc.option(fc.constantFrom('north school', 'sedge brewery')),
  role: fc.option(fc.constantFrom(...ROLES)),
  organisation: fc.option(fc.integer({ min: 1, max: 9 })),
  industry: fc.option(fc.constantFrom(...INDUSTRIES)),
  headCount: fc.option(fc.constantFrom(0, 1, 9, 10, 49, 50, 249, 250, 999, 1000, 40_000)),
  county: fc.option(fc.constantFrom(...COUNTIES)),
  tags: fc.subarray(TAGS),
  custom: fc.record({ 1: fc.constantFrom('A large roof', 'no roofs'), 2: fc.constantFrom('-3.5', '12', '100'), 3: fc.constantFrom('2026-03-01', '2025-12-31'), 4: fc.constantFrom('yes', 'no') }, { requiredKeys: [] }) as fc.Arbitrary<CustomValues>,
  town: fc.option(fc.constantFrom(...TOWNS)),
  postcode: fc.option(fc.constantFrom(...POSTCODES)),
  relation: fc.option(fc.constantFrom(...RELATIONS)),
  addresses: few(fc.record({ id: fc.integer({ min: 1, max: 9999 }), channel: fc.constantFrom(...SCREENED), usable: fc.boolean(), failedAt: fc.option(fc.constant(ASOF - 9 * DAY)), suppressions: few(suppression, 2) }), 5),
  contacts: few(fc.record({ at: fc.integer({ min: ASOF - 200 * DAY, max: ASOF }), channel: fc.constantFrom(...WAYS), by: fc.constantFrom(...ACTORS) }), 4),
  toCome: few(fc.record({ round: fc.integer({ min: 1, max: 3 }), channel: fc.constantFrom(...SCREENED), since: fc.constant(ASOF - 3 * DAY) }), 2),
  suppressions: few(suppression, 1),
  batches: fc.uniqueArray(fc.integer({ min: 1, max: 3 }), { maxLength: 2 }),
  rounds: fc.uniqueArray(fc.record({ list: fc.integer({ min: 7, max: 8 }), number: fc.integer({ min: 1, max: 3 }), clear: fc.boolean() }), { maxLength: 3, selector: (s) => `${s.list}|${s.number}` }),
  sortKey: fc.constantFrom('adder a', 'brook b', 'croft c', 'dell d'),
})

/** A directory of people with ids from 1. */
export const directory: fc.Arbitrary<PersonRecord[]> = fc.array(person, { minLength: 1, maxLength: 60 }).map((people) => people.map((p, i) => ({ ...p, id: i + 1 })))

export function columnsOf(people: PersonRecord[]): PeopleColumns {
  const columns = new PeopleColumns()
  for (const p of people) columns.put(p)
  for (const list of [7, 8]) {
    for (const number of [1, 2, 3]) {
      const seats = people.flatMap((p) => p.rounds.filter((r) => r.list === list && r.number === number).map((r) => ({ id: p.id, clear: r.clear })))
      columns.putRound(list, number, { listed: columns.numbers(seats.map((s) => s.id)), clear: columns.numbers(seats.filter((s) => s.clear).map((s) => s.id)) })
    }
  }
  return columns
}

/** Another list that is named: ids divisible by three. Two sets of people who were picked: even ids, and the first ten. */
const NAMED = { 'list:50:latest': (id: number) => id % 3 === 0, 'pick:1': (id: number) => id % 2 === 0, 'pick:2': (id: number) => id <= 10 }

/** The moment with everything that generated lines name at hand. */
export function momentFor(columns: PeopleColumns): Moment {
  const members = new Map(Object.entries(NAMED).map(([key, has]) => [key, { has, set: columns.numbers(Array.from({ length: 80 }, (_, i) => i + 1).filter(has)) }]))
  return { ...MOMENT, lastRounds: { 7: 2 }, members }
}
export const pickedHas = (line: Extract<Line, { verb: 'pick' }>, id: number): boolean => NAMED[pickKey(line) as 'pick:1'](id)

export const criterion: fc.Arbitrary<Criterion> = fc.oneof(
  fc.uniqueArray(fc.constantFrom('estates', 'facility', 'trainee', 'head of facilities', 'directrice generale'), { minLength: 1, maxLength: 3 }).map((any) => ({ kind: 'role' as const, any })),
  fc
    .record({ towns: fc.subarray([...TOWNS, 'LOW  WENDLE']), postcodes: fc.subarray(['PW1', 'pw12 3', 'PW']) })
    .filter((p) => p.towns.length + p.postcodes.length > 0)
    .map((p) => ({ kind: 'place' as const, ...p })),
  fc.constantFrom(...SCREENED).map((channel) => ({ kind: 'reach' as const, channel })),
  fc.subarray([...RELATIONS], { minLength: 1 }).map((any) => ({ kind: 'relation' as const, any })),
  fc.subarray([...LEVELS], { minLength: 1 }).map((any) => ({ kind: 'level' as const, any })),
  fc.subarray([...FUNCTIONS], { minLength: 1 }).map((any) => ({ kind: 'function' as const, any })),
  fc.record({ by: fc.option(fc.constantFrom(...ACTORS).map((id) => ({ id, name: id }))), how: fc.constantFrom('never' as const, 'before' as const, 'within' as const), days: fc.integer({ min: 1, max: 150 }), ways: fc.option(fc.subarray([...WAYS], { minLength: 1 }), { nil: undefined }) }).map(({ by, how, days, ways }) => ({
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
  fc.record({ list: fc.integer({ min: 7, max: 9 }), which: fc.constantFrom('any' as const, 'last' as const, 1, 3), stood: fc.constantFrom('listed' as const, 'clear' as const, 'held back' as const) }).map(({ list, ...rest }) => ({ kind: 'round' as const, list: { id: list, name: `list ${list}` }, ...rest })),
  fc.constant({ kind: 'list' as const, list: { id: 50, name: 'another' }, edition: null }),
)

const off = fc.boolean()
const criterionLine = fc
  .record({ verb: fc.constantFrom('keep' as const, 'drop' as const, 'add' as const), off, unknownAsYes: fc.boolean(), criterion })
  .map((l) => ({ ...l, unknownAsYes: l.verb === 'keep' && l.unknownAsYes }))
const limitLine = fc.record({ verb: fc.constant('limit' as const), off, most: fc.integer({ min: 1, max: 20 }), per: fc.constantFrom('organisation' as const, 'all' as const), rank: fc.constantFrom(...RANKS) })
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
  fc.tuple(fc.option(fc.integer({ min: 1, max: 4 }).map((id) => ({ id, name: `batch ${id}` }))), fc.array(line, { maxLength: 7 })).map(([batch, lines]) => [
    { id: 'start', verb: 'start' as const, off: false, batch },
    ...lines.map((l, i) => ({ ...l, off: l.off && i % 2 === 0, id: `line-${i}` }) as Line),
  ])

/** A page of lines that can be read for one record alone: a start, then any but limits, some of them switched off. */
export const plainPage = pageOf(fc.oneof({ weight: 4, arbitrary: criterionLine }, { weight: 1, arbitrary: pickLine }))
/** A whole page: any lines. */
export const page = pageOf(fc.oneof({ weight: 5, arbitrary: criterionLine }, { weight: 1, arbitrary: pickLine }, { weight: 1, arbitrary: limitLine }))

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
export const letThrough = fc.array(fc.record({ person: fc.integer({ min: 1, max: 60 }), channel: fc.constantFrom(...SCREENED) }), { maxLength: 20 })

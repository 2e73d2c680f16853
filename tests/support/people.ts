import fc from 'fast-check'
import { PeopleColumns } from '@/core/columns/people-columns'
import { CHANNELS, type PersonRecord, REASONS, RELATIONS, SCREENED } from '@/core/columns/person-record'
import type { Moment } from '@/core/criteria/kind'
import type { Criterion } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'
import type { Rule } from '@/core/screening/rules'

export const DAY = 86_400_000
export const ASOF = Date.UTC(2026, 5, 15, 10)
export const MOMENT: Moment = { asOf: ASOF, zone: 'Europe/London' }

export const ACTORS = ['ines', 'tam'] as const
const ROLES = ['Estates Manager', 'head of facilities', 'Trainee Estates Officer', 'Bursar', 'Facilities & Estates Lead', 'Directrice générale', 'caretaker']
const TOWNS = ['Thornmouth', 'Low Wendle', 'Kettlehythe']
const POSTCODES = ['PW1 2AB', 'PW12 3CD', 'PW2 1ZZ']

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
  role: fc.option(fc.constantFrom(...ROLES)),
  organisation: fc.option(fc.integer({ min: 1, max: 9 })),
  town: fc.option(fc.constantFrom(...TOWNS)),
  postcode: fc.option(fc.constantFrom(...POSTCODES)),
  relation: fc.option(fc.constantFrom(...RELATIONS)),
  addresses: few(fc.record({ id: fc.integer({ min: 1, max: 9999 }), channel: fc.constantFrom(...SCREENED), usable: fc.boolean(), suppressions: few(suppression, 2) }), 5),
  contacts: few(fc.record({ at: fc.integer({ min: ASOF - 200 * DAY, max: ASOF }), channel: fc.constantFrom(...CHANNELS), by: fc.constantFrom(...ACTORS) }), 4),
  toCome: few(fc.record({ round: fc.integer({ min: 1, max: 3 }), channel: fc.constantFrom(...SCREENED), since: fc.constant(ASOF - 3 * DAY) }), 2),
  suppressions: few(suppression, 1),
  batches: fc.uniqueArray(fc.integer({ min: 1, max: 3 }), { maxLength: 2 }),
  sortKey: fc.constantFrom('adder a', 'brook b', 'croft c', 'dell d'),
})

/** A directory of people with ids from 1. */
export const directory: fc.Arbitrary<PersonRecord[]> = fc.array(person, { minLength: 1, maxLength: 60 }).map((people) => people.map((p, i) => ({ ...p, id: i + 1 })))

export function columnsOf(people: PersonRecord[]): PeopleColumns {
  const columns = new PeopleColumns()
  for (const p of people) columns.put(p)
  return columns
}

export const criterion: fc.Arbitrary<Criterion> = fc.oneof(
  fc.uniqueArray(fc.constantFrom('estates', 'facility', 'trainee', 'head of facilities', 'directrice generale'), { minLength: 1, maxLength: 3 }).map((any) => ({ kind: 'role' as const, any })),
  fc
    .record({ towns: fc.subarray([...TOWNS, 'LOW  WENDLE']), postcodes: fc.subarray(['PW1', 'pw12 3', 'PW']) })
    .filter((p) => p.towns.length + p.postcodes.length > 0)
    .map((p) => ({ kind: 'place' as const, ...p })),
  fc.constantFrom(...SCREENED).map((channel) => ({ kind: 'reach' as const, channel })),
  fc.subarray([...RELATIONS], { minLength: 1 }).map((any) => ({ kind: 'relation' as const, any })),
  fc.record({ by: fc.option(fc.constantFrom(...ACTORS).map((id) => ({ id, name: id }))), how: fc.constantFrom('never' as const, 'before' as const, 'within' as const), days: fc.integer({ min: 1, max: 150 }) }).map(({ by, how, days }) => ({
    kind: 'contacted' as const,
    how,
    by,
    ...(how === 'within' ? { days } : how === 'before' ? { date: '2026-04-01' } : {}),
  })),
)

/** A whole page: a start, then any lines, some of them switched off. */
export const page: fc.Arbitrary<Line[]> = fc
  .tuple(
    fc.option(fc.integer({ min: 1, max: 4 }).map((id) => ({ id, name: `batch ${id}` }))),
    fc.array(fc.record({ verb: fc.constantFrom('keep' as const, 'drop' as const, 'add' as const), off: fc.boolean(), unknownAsYes: fc.boolean(), criterion }), { maxLength: 6 }),
  )
  .map(([batch, lines]) => [
    { id: 'start', verb: 'start' as const, off: false, batch },
    ...lines.map((l, i) => ({ ...l, off: l.off && i % 2 === 0, unknownAsYes: l.verb === 'keep' && l.unknownAsYes, id: `line-${i}` })),
  ])

export const rules: fc.Arbitrary<Rule[]> = fc
  .record({
    version: fc.option(fc.constantFrom('2026-06-01', '2026-04-01')),
    off: fc.boolean(),
    days: fc.integer({ min: 1, max: 120 }),
    closes: fc.constantFrom('every channel' as const, 'the same channel' as const),
  })
  .map(({ version, off, days, closes }) => [
    { kind: 'no-way-to-reach' },
    { kind: 'asked-to-stop' },
    { kind: 'register', version, goodFor: 31 },
    { kind: 'customers', off, relations: ['customer', 'our own people'] },
    { kind: 'contacted-within', off: false, days, closes },
  ])

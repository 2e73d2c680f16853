import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { type History, type ReportEntry, readChanges } from '@/core/changes/read'

const DAY0 = Date.parse('2026-03-01T09:00:00Z')
const dayOf = (n: number) => new Date(DAY0 + n * 86_400_000).toISOString().slice(0, 10)

const entry = (id: number, more: Partial<ReportEntry>): ReportEntry => ({
  id,
  kind: 'change',
  day: '2026-03-10',
  recordedAt: DAY0 + id,
  field: null,
  before: null,
  after: null,
  stated: false,
  source: 'file.csv',
  happening: null,
  same: [],
  result: null,
  ...more,
})
const history = (entries: ReportEntry[], more: Partial<History> = {}): History => ({
  of: 'person',
  since: '2026-03-01',
  entries,
  now: () => null,
  rows: [],
  ...more,
})
const kinds = (entries: ReportEntry[], more: Partial<History> = {}) =>
  readChanges(history(entries, more)).map((c) => `${c.kind} (${c.after}, ${c.by}]`)

describe('what is read off the ledger', () => {
  test('a field that was filled for the first time is no change; one that was emptied says nothing, but for an organisation', () => {
    expect(kinds([entry(1, { field: 'role', before: null, after: 'Bursar' })])).toEqual([])
    expect(kinds([entry(1, { field: 'role', before: 'Bursar', after: null })])).toEqual([])
    expect(kinds([entry(1, { field: 'organisation', before: 'Larch House', after: null })])).toEqual(['left (2026-03-01, 2026-03-10]'])
  })

  test('another spelling of the same is none', () => {
    expect(kinds([entry(1, { field: 'role', before: 'HEAD of estates', after: 'Head of Estates' })])).toEqual([])
  })

  test('each field has its kind; keys, names and ways to reach somebody have no timeline', () => {
    const of = (field: string, before: string, after: string, subject: History['of'] = 'person') =>
      kinds([entry(1, { field, before, after })], { of: subject }).map((told) => told.split(' (')[0])
    expect(of('role', 'Bursar', 'Head')).toEqual(['role'])
    expect(of('organisation', 'A', 'B')).toEqual(['organisation'])
    expect(of('relation', 'prospect', 'customer')).toEqual(['customer'])
    expect(of('relation', 'customer', 'former customer')).toEqual(['detail'])
    expect(of('county', 'Pellow', 'Marle')).toEqual(['detail'])
    expect(of('headCount', '40', '90', 'organisation')).toEqual(['hiring'])
    expect(of('headCount', '90', '40', 'organisation')).toEqual(['detail'])
    expect(of('owner', 'Anna', 'Bert', 'premises')).toEqual(['hands'])
    expect(of('roof area', '400', '450', 'premises')).toEqual(['roof'])
    expect(of('custom:-48', 'no', 'yes', 'premises')).toEqual(['for sale'])
    for (const field of ['email', 'phone', 'post', 'tags', 'outside id', 'family name', 'street', 'position'])
      expect(of(field, 'one', 'two')).toEqual([])
  })

  test('contacts that failed or were answered, complaints, and what was reported to have happened', () => {
    const contact = (id: number, result: string) => entry(id, { kind: 'contact', result, stated: true })
    expect(kinds([contact(1, 'bounced'), contact(2, 'sent'), contact(3, 'replied'), contact(4, 'soft bounced')])).toEqual([
      'address failed (2026-03-09, 2026-03-10]',
      'replied (2026-03-09, 2026-03-10]',
    ])
    expect(kinds([entry(1, { kind: 'suppressed' }), entry(2, { kind: 'reported', happening: 7 })])).toEqual([
      'complained (null, 2026-03-10]',
      '7 (null, 2026-03-10]',
    ])
  })

  test('a report stands beside what the record says now, where no file ever changed it', () => {
    const reported = entry(1, { kind: 'reported', field: 'role', before: 'Bursar', after: 'Head', day: '2026-03-20', stated: true })
    expect(kinds([reported], { now: () => 'Bursar' })).toEqual(['role (2026-03-19, 2026-03-20]'])
    // Before and after swapped: it says what we know already.
    expect(kinds([{ ...reported, before: 'Head', after: 'Bursar' }], { now: () => 'Bursar' })).toEqual([])
  })

  test('what is said on the very day on which the record came in came after it', () => {
    const left = entry(1, { kind: 'reported', field: 'organisation', before: 'Larch House', after: null, day: '2026-03-01' })
    expect(kinds([left], { now: () => 'Larch House' })).toEqual(['left (2026-02-28, 2026-03-01]'])
    const role = entry(1, { kind: 'reported', field: 'role', before: 'Head', after: 'Bursar', day: '2026-03-01' })
    expect(kinds([role], { now: () => 'Head' })).toEqual(['role (2026-02-28, 2026-03-01]'])
  })

  test('rows that hold the very value narrow when it changed, and are sources; others prove nothing', () => {
    const entries = [entry(1, { field: 'role', before: 'Site Manager', after: 'Head of Estates', day: '2026-03-20' })]
    const row = (day: string, source: string, ...cells: string[]) => ({ day, source, cells })
    const rows = [
      row('2026-03-12', 'a.csv', 'site manager'),
      row('2026-03-14', 'b.csv', 'caretaker'),
      row('2026-03-25', 'c.csv', 'head of estates'),
    ]
    expect(readChanges(history(entries, { rows }))).toMatchObject([{ after: '2026-03-12', by: '2026-03-20', sources: 2, reports: [1] }])
  })

  test('a promotion and a departure on one day are two changes', () => {
    expect(
      kinds([
        entry(1, { field: 'role', before: 'Deputy', after: 'Head' }),
        entry(2, { field: 'organisation', before: 'Larch House', after: null }),
      ]).sort(),
    ).toEqual(['left (2026-03-01, 2026-03-10]', 'role (2026-03-01, 2026-03-10]'])
  })
})

describe('any history of states', () => {
  // What a role was on each of some days; what changed from one to the next was written down as it came.
  const states = fc.array(fc.constantFrom('Bursar', 'Head', 'Caretaker', null), { minLength: 2, maxLength: 10 })

  test('changes read off the ledger equal a comparison of the states, one after the other', () => {
    fc.assert(
      fc.property(states, (days) => {
        const entries: ReportEntry[] = []
        for (let i = 1; i < days.length; i++)
          // A file with an empty cell changes nothing.
          if (days[i] !== null && days[i] !== lastKnown(days, i))
            entries.push(entry(i, { field: 'role', before: lastKnown(days, i), after: days[i], day: dayOf(i) }))
        const read = readChanges(history(entries, { since: dayOf(0) }))
        const compared = entries.filter((e) => e.before !== null)
        expect(read.map((c) => c.entry)).toEqual(compared.map((e) => e.id))
        expect(read.map((c) => c.by)).toEqual(compared.map((e) => e.day))
        for (const change of read) expect(change.after !== null && change.after < change.by).toBe(true)
      }),
      { numRuns: 300 },
    )
  })

  test('the order in which entries are handed over makes no difference', () => {
    const any = fc
      .array(
        fc.tuple(
          fc.constantFrom('role', 'organisation', 'county'),
          fc.constantFrom('a', 'b', 'c'),
          fc.constantFrom('a', 'b', ''),
          fc.nat(20),
        ),
        {
          maxLength: 9,
        },
      )
      .map((all) =>
        all.map(([field, before, after, day], i) =>
          entry(i + 1, {
            kind: i % 3 === 2 ? 'reported' : 'change',
            field,
            before,
            after,
            day: dayOf(day),
            source: `s${i % 2}`,
            stated: i % 4 === 3,
          }),
        ),
      )
    const sorted = (changes: ReturnType<typeof readChanges>) =>
      [...changes].sort((a, b) => a.entry - b.entry || String(a.field).localeCompare(String(b.field)))
    fc.assert(
      fc.property(
        any.chain((all) => fc.tuple(fc.constant(all), fc.shuffledSubarray(all, { minLength: all.length }))),
        ([all, shuffled]) => {
          expect(sorted(readChanges(history(shuffled)))).toEqual(sorted(readChanges(history(all))))
        },
      ),
      { numRuns: 300 },
    )
  })
})

function lastKnown(days: readonly (string | null)[], before: number): string | null {
  for (let i = before - 1; i >= 0; i--) if (days[i] !== null) return days[i]
  return null
}

import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { CHANNELS, WAYS } from '@/core/records/channels'
import { ALL_RESULTS, ANSWERS, FAILED } from '@/core/records/results'
import {
  cameTo,
  contactedIn,
  costPerAnswer,
  OUTCOMES,
  outcomeBy,
  outcomeOf,
  PARTED_BY,
  partOf,
  releasedIn,
  resultsOf,
  type RoundContact,
  type Worked,
} from '@/core/rounds/results'
import { RESULTS_HEADING, resultsRows } from '@/core/text/results-csv'

let next = 0
const made = (channel: RoundContact['channel'], result: string | null, by = 'Tam'): RoundContact => ({
  id: ++next,
  channel,
  result,
  by,
  at: '2026-06-01T09:00:00Z',
})
const somebody = (more: Partial<Worked>): Worked => ({
  person: ++next,
  line: 'Start with everyone',
  file: null,
  opener: null,
  supplement: 'The round itself',
  channels: [{ channel: 'phone', stopped: false }],
  contacts: [],
  ...more,
})

const contact = fc.record({
  id: fc.integer({ min: 1, max: 1e6 }),
  channel: fc.constantFrom(...WAYS),
  result: fc.constantFrom(...ALL_RESULTS, 'call in June', null),
  by: fc.constantFrom('Tam', 'Ines'),
  at: fc.constant('2026-06-01T09:00:00Z'),
})
const worked: fc.Arbitrary<Worked> = fc.record({
  person: fc.integer({ min: 1, max: 1e6 }),
  line: fc.constantFrom('one', 'two'),
  file: fc.constantFrom('a.csv', null),
  opener: fc.constantFrom('Storm damage', null),
  supplement: fc.constantFrom('The round itself', 'Supplement 1'),
  channels: fc.uniqueArray(fc.record({ channel: fc.constantFrom(...CHANNELS), stopped: fc.boolean() }), {
    minLength: 1,
    selector: ({ channel }) => channel,
  }),
  contacts: fc.array(contact, { maxLength: 5 }),
})

describe('what became of somebody', () => {
  test('by what results say: every answer is one, and every failure', () => {
    for (const result of ALL_RESULTS) {
      const came = cameTo([made('phone', result)])?.outcome
      expect(came === 'answered', result).toBe((ANSWERS as readonly string[]).includes(result))
      if ((FAILED as readonly string[]).includes(result)) expect(came).toBe('failed')
    }
    expect(cameTo([])).toBeNull()
    expect(cameTo([made('post', null)])?.outcome).toBe('reached')
    expect(cameTo([made('phone', 'call in June')])?.outcome).toBe('reached')
  })

  // Common practice, no source: delivered is what was sent and did not come back.
  test('what was sent counts as reached until it comes back, and an answer outdoes what comes back', () => {
    expect(cameTo([made('email', 'sent')])?.outcome).toBe('reached')
    expect(cameTo([made('email', 'sent'), made('email', 'bounced')])?.outcome).toBe('failed')
    expect(cameTo([made('email', 'sent'), made('email', 'soft bounced')])?.outcome).toBe('not reached')
    expect(cameTo([made('email', 'sent'), made('email', 'bounced'), made('email', 'replied')])?.outcome).toBe('answered')
    expect(cameTo([made('phone', 'no answer'), made('phone', 'voicemail')])?.outcome).toBe('reached')
  })

  test('the best of several channels, with the contact that says so', () => {
    const [call, letter] = [made('phone', 'wrong number', 'Tam'), made('post', 'sent', 'Ines')]
    const row = somebody({
      channels: [
        { channel: 'phone', stopped: false },
        { channel: 'post', stopped: false },
      ],
      contacts: [call, letter],
    })
    expect(outcomeOf(row)).toEqual({ outcome: 'reached', by: letter })
    expect([outcomeBy(row, 'phone'), outcomeBy(row, 'post'), outcomeBy(row, 'email')]).toEqual(['failed', 'reached', null])
    expect(partOf(row, 'colleague', letter)).toBe('Ines')
  })

  test('stopped only where every contact to come was stopped and none was made', () => {
    const channels = [
      { channel: 'phone' as const, stopped: true },
      { channel: 'post' as const, stopped: false },
    ]
    expect(outcomeOf(somebody({ channels }))).toEqual({ outcome: 'not worked', by: null })
    expect(outcomeOf(somebody({ channels: [channels[0]] })).outcome).toBe('stopped')
    expect(outcomeOf(somebody({ channels: [channels[0]], contacts: [made('met', 'spoke')] })).outcome).toBe('answered')
  })
})

describe('the account of results', () => {
  test('closes: everybody is in exactly one outcome, and in exactly one part of each kind', () => {
    fc.assert(
      fc.property(fc.array(worked, { maxLength: 30 }), (rows) => {
        const { counts, ways, parts } = resultsOf(rows, () => null)
        expect(releasedIn(counts)).toBe(rows.length)
        expect(releasedIn(counts)).toBe(counts.stopped + counts['not worked'] + contactedIn(counts))
        expect(contactedIn(counts)).toBe(rows.filter(({ contacts }) => contacts.length > 0).length)
        for (const by of PARTED_BY)
          for (const outcome of OUTCOMES) expect(parts[by].reduce((sum, part) => sum + part.counts[outcome], 0)).toBe(counts[outcome])
        for (const own of ways) expect(own.contacts).toBe(rows.flatMap((r) => r.contacts).filter((c) => c.channel === own.way).length)
        // Nobody answered by a channel who did not answer.
        for (const own of ways) expect(own.counts.answered).toBeLessThanOrEqual(counts.answered)
      }),
    )
  })

  test('does not depend on the order of people or of contacts', () => {
    fc.assert(
      fc.property(fc.array(worked, { maxLength: 12 }), (rows) => {
        const back = rows.map((row) => ({ ...row, contacts: [...row.contacts].reverse() })).reverse()
        const [a, b] = [resultsOf(rows, () => 5), resultsOf(back, () => 5)]
        expect(b.counts).toEqual(a.counts)
        expect(b.ways).toEqual(a.ways)
      }),
    )
  })

  test('tells what an answer cost: all contacts of known cost, over whoever answered', () => {
    const rows = [
      somebody({ contacts: [made('phone', 'spoke')] }),
      somebody({ contacts: [made('phone', 'no answer'), made('phone', 'no answer')] }),
      somebody({ channels: [{ channel: 'post', stopped: false }], contacts: [made('post', 'sent')] }),
    ]
    const results = resultsOf(rows, (channel) => (channel === 'phone' ? 40 : channel === 'post' ? 85 : null))
    expect(results.ways.map(({ way, contacts, cost }) => [way, contacts, cost])).toEqual([
      ['phone', 3, 120],
      ['post', 1, 85],
    ])
    expect(costPerAnswer(results)).toBe(205)
    expect(costPerAnswer(resultsOf(rows, () => null))).toBeNull()
    expect(costPerAnswer(resultsOf(rows.slice(1), () => 40))).toBeNull()
  })

  test('as rows of a file has the same figures, each row as wide as the heading', () => {
    fc.assert(
      fc.property(fc.array(worked, { minLength: 1, maxLength: 12 }), (rows) => {
        const results = resultsOf(rows, () => 85)
        const table = resultsRows(results)
        for (const row of table) expect(row).toHaveLength(RESULTS_HEADING.length)
        const first = Object.fromEntries(RESULTS_HEADING.map((title, i) => [title, table[0][i]]))
        expect(first).toMatchObject({ Released: String(rows.length), Contacted: String(contactedIn(results.counts)) })
        expect(table.filter(([by]) => by === 'Colleague').map(([, part]) => part)).toEqual(results.parts.colleague.map(({ key }) => key))
      }),
    )
  })
})

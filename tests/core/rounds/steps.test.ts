import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { CHANNELS } from '@/core/records/channels'
import { ALL_RESULTS } from '@/core/records/results'
import { outcomeOf } from '@/core/rounds/results'
import { dueFrom, inSteps, SPARED_BY, type Steps, stepsMeant, stepsText, UNLESS } from '@/core/rounds/steps'

const steps: fc.Arbitrary<Steps> = fc
  .dictionary(
    fc.constantFrom(...CHANNELS),
    fc.record({ after: fc.integer({ min: 1, max: 365 }), unless: fc.constantFrom(...UNLESS, null) }),
    {
      noNullPrototype: true,
      maxKeys: 3,
    },
  )
  .map((own) => own as Steps)

describe('the steps of a round', () => {
  test('are in the order of their days, each channel once, and channels of one day are one step', () => {
    expect(inSteps({ phone: { after: 10, unless: 'answered' }, direct: { after: 10, unless: null } })).toEqual([
      { channel: 'email', step: 1, after: 0, unless: null },
      { channel: 'post', step: 1, after: 0, unless: null },
      { channel: 'phone', step: 2, after: 10, unless: 'answered' },
      { channel: 'direct', step: 2, after: 10, unless: null },
    ])
    fc.assert(
      fc.property(steps, (own) => {
        const order = inSteps(own)
        expect(order.map(({ channel }) => channel).sort()).toEqual([...CHANNELS].sort())
        for (let i = 1; i < order.length; i++) {
          expect(order[i].step - order[i - 1].step).toBe(Number(order[i].after > order[i - 1].after))
          expect(order[i].after).toBeGreaterThanOrEqual(order[i - 1].after)
        }
        // What was sent comes back as it is, however often it is read.
        expect(stepsMeant(own)).toEqual(own)
      }),
    )
  })

  test('count calendar days, over the end of a month and a leap day', () => {
    const own: Steps = { phone: { after: 10, unless: null } }
    expect(dueFrom('2027-02-20', own, 'phone')).toBe('2027-03-02')
    expect(dueFrom('2028-02-20', own, 'phone')).toBe('2028-03-01')
    expect(dueFrom('2028-02-20', own, 'email')).toBe('2028-02-20')
  })

  test('are said in words, from the day they are due on once they are out', () => {
    const own: Steps = { phone: { after: 10, unless: 'answered' }, post: { after: 1, unless: null } }
    expect(stepsText(own)).toBe('post 1 day later; phone 10 days later, unless they answered')
    expect(stepsText(own, '2026-06-15')).toBe('post from 16 Jun 2026; phone from 25 Jun 2026, unless they answered')
    expect([stepsText({}), stepsText(null)]).toEqual([null, null])
  })

  test('are refused where no channel is at once, a day is none, or something else is said', () => {
    const all = Object.fromEntries(CHANNELS.map((channel) => [channel, { after: 1, unless: null }]))
    for (const [raw, said] of [
      [all, /One channel at least/],
      [{ phone: { after: 0, unless: null } }, /a day after/],
      [{ phone: { after: 366, unless: null } }, /at most/],
      [{ phone: { after: 1.5, unless: null } }, /Whole days/],
      [{ phone: { after: '10', unless: null } }, /how many days/],
      [{ phone: { after: 10, unless: 'never' } }, /what spares/],
      [{ phone: { after: 10, more: 1 } }, /its? a day and what spares|has a day/],
      [{ fax: { after: 10, unless: null } }, /by email, phone/],
      [null, /./],
      [[], /./],
    ] as const)
      expect(() => stepsMeant(raw), JSON.stringify(raw)).toThrow(said)
  })

  test('what spares a step is what the results count as an answer, or as reached', () => {
    for (const result of ALL_RESULTS) {
      const contacts = [{ id: 1, channel: 'email' as const, result, by: 'Tam', at: '2026-06-15T09:00:00Z' }]
      const { outcome } = outcomeOf({ channels: [], contacts })
      expect(SPARED_BY.answered.includes(result), result).toBe(outcome === 'answered')
      // What was only sent counts as reached at the end, but spares nobody a call.
      expect(SPARED_BY.reached.includes(result), result).toBe(outcome === 'answered' || (outcome === 'reached' && result !== 'sent'))
    }
  })
})

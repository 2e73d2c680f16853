import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { CHANNELS, type Channel } from '@/core/records/channels'
import { plannedWeeks, planVariants, spread, weekOf } from '@/core/rounds/weeks'
import { byWeeks, mostBy, type OneChannelRule } from '@/core/screening/one-channel'

const plan = (of: Partial<OneChannelRule> = {}): OneChannelRule => ({
  id: 'p',
  kind: 'one-channel',
  off: false,
  first: 'phone',
  second: 'post',
  third: 'none',
  fourth: 'none',
  who: 'longest in the directory',
  ...of,
})
const clear = (of: Partial<Record<Channel, number>>): Record<Channel, number> => ({ email: 0, phone: 0, post: 0, direct: 0, ...of })

describe('a plan by weeks', () => {
  test('two callers with forty calls a week each have 320 in four weeks; a limit in all counts beside it', () => {
    expect(mostBy(plan({ callers: 2, callsEach: 40, weeks: 4 }), 'phone')).toBe(320)
    expect(mostBy(plan({ callers: 2, callsEach: 40, weeks: 4, mostPhone: 100 }), 'phone')).toBe(100)
    expect(mostBy(plan({ callers: 0, callsEach: 40 }), 'phone')).toBe(0)
    expect(mostBy(plan({ callers: 2 }), 'phone')).toBeNull()
    expect(mostBy(plan({ weekPost: 50 }), 'post')).toBe(50)
    expect(byWeeks(plan({ weeks: 3 }))).toBe(false)
  })

  test('week by week and channel by channel, with what it costs', () => {
    const rule = plan({ callers: 1, callsEach: 40, weeks: 3, weekPost: 25, costPhone: 120, costPost: 85 })
    expect(plannedWeeks(rule, clear({ phone: 100, post: 30, email: 7 }))).toEqual([
      { week: 1, by: { email: 7, phone: 40, post: 25, direct: 0 }, cost: 40 * 120 + 25 * 85 },
      { week: 2, by: { email: 0, phone: 40, post: 5, direct: 0 }, cost: 40 * 120 + 5 * 85 },
      { week: 3, by: { email: 0, phone: 20, post: 0, direct: 0 }, cost: 20 * 120 },
    ])
    expect(plannedWeeks(plan(), clear({ phone: 100 }))).toEqual([])
    expect(plannedWeeks(plan({ weekPost: 10 }), clear({ post: 3 }))[0].cost).toBeNull()
  })

  test('every contact falls into one week, the earlier ones are full, and each is in the week its place says', () => {
    fc.assert(
      fc.property(fc.nat(500), fc.option(fc.integer({ min: 0, max: 60 })), (contacts, aWeek) => {
        const weeks = spread(contacts, aWeek)
        expect(weeks.reduce((a, b) => a + b, 0)).toBe(contacts)
        if (aWeek) for (const own of weeks.slice(0, -1)) expect(own).toBe(aWeek)
        const counted = Array.from({ length: weeks.length }, () => 0)
        for (let place = 0; place < contacts; place++) counted[weekOf(place, aWeek) - 1]++
        expect(counted).toEqual(weeks)
      }),
    )
  })

  test('within its weeks where the plan keeps to what they hold', () => {
    const some = fc.option(fc.integer({ min: 1, max: 9 }), { nil: undefined })
    fc.assert(
      fc.property(
        fc.record({ weeks: fc.integer({ min: 1, max: 5 }), callers: some, callsEach: some, weekPost: some, weekEmail: some }),
        fc.nat(200),
        (of, many) => {
          const rule = plan(of)
          const counts = Object.fromEntries(CHANNELS.map((channel) => [channel, Math.min(many, mostBy(rule, channel) ?? many)])) as Record<
            Channel,
            number
          >
          expect(plannedWeeks(rule, counts).length).toBeLessThanOrEqual(of.weeks)
        },
      ),
    )
  })

  test('what could be changed is one thing at a time, and only what the plan has', () => {
    expect(planVariants(plan())).toEqual([])
    const rule = plan({ callers: 2, callsEach: 40, weeks: 4, weekPost: 50, budget: 900, wanted: 300 })
    expect(planVariants(rule).map(({ title }) => title)).toEqual([
      'One more caller',
      'One caller fewer',
      'One more week',
      'A tenth more letters a week',
      'A tenth more budget',
      'A tenth less budget',
      'As many people as can be',
    ])
    for (const { rule: own } of planVariants(rule)) {
      const keys = Object.keys(rule) as (keyof OneChannelRule)[]
      expect(keys.filter((key) => own[key] !== rule[key])).toHaveLength(1)
    }
  })
})

import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { CHANNELS, type Channel } from '@/core/records/channels'
import { planReach, type ReachClass, type ReachWanted } from '@/core/rounds/reach-plan'

/** By channel, how many a plan gives it. */
const totals = (classes: readonly ReachClass[], wanted: ReachWanted) => {
  const { given } = planReach(classes, wanted)
  return wanted.order.map((_, c) => given.reduce((all, own) => all + own[c], 0))
}
const free: Omit<ReachWanted, 'order'> = { most: {}, cost: {}, budget: null }

describe('a reach plan', () => {
  // ../shared/STACK.md: 276 addresses in an area, 155 of them on the do-not-call register, so 276 can be mailed and 121 called.
  test('the usual split: whoever has a phone onto the call file, the others onto labels', () => {
    const classes: ReachClass[] = [
      { channels: ['phone', 'post'], size: 121 },
      { channels: ['post'], size: 155 },
    ]
    expect(totals(classes, { ...free, order: ['phone', 'post'] })).toEqual([121, 155])
    expect(planReach(classes, { ...free, order: ['phone', 'post'] }).given).toEqual([
      [121, 0],
      [0, 155],
    ])
  })

  test('most people come before the preferred channel: those who can only be called are called', () => {
    const classes: ReachClass[] = [
      { channels: ['phone', 'post'], size: 10 },
      { channels: ['phone'], size: 6 },
    ]
    expect(totals(classes, { ...free, order: ['phone', 'post'], most: { phone: 8 } })).toEqual([8, 8])
  })

  test('a budget is kept to: cheaper contacts make way for more people', () => {
    const classes: ReachClass[] = [{ channels: ['phone', 'email'], size: 100 }]
    const wanted: ReachWanted = { order: ['phone', 'email'], most: {}, cost: { phone: 120, email: 1 }, budget: 5000 }
    // 41 calls and 59 emails: 4,979 pence; one more call would be 5,098.
    expect(planReach(classes, wanted)).toMatchObject({ people: 100, cost: 41 * 120 + 59 })
    expect(totals(classes, wanted)).toEqual([41, 59])
    expect(planReach(classes, { ...wanted, budget: 0 })).toMatchObject({ people: 0, cost: 0 })
    expect(planReach([], wanted)).toEqual({ given: [], people: 0, cost: 0 })
  })

  const order = fc.shuffledSubarray([...CHANNELS], { minLength: 1 })
  const limits = fc.record(
    Object.fromEntries(CHANNELS.map((c) => [c, fc.option(fc.integer({ min: 0, max: 4 }))])) as Record<Channel, fc.Arbitrary<number | null>>,
  )
  const costs = fc.record(
    Object.fromEntries(CHANNELS.map((c) => [c, fc.integer({ min: 0, max: 9 })])) as Record<Channel, fc.Arbitrary<number>>,
  )
  const wanted: fc.Arbitrary<ReachWanted> = fc.record({
    order,
    most: limits,
    cost: costs,
    budget: fc.option(fc.integer({ min: 0, max: 30 })),
    people: fc.option(fc.integer({ min: 0, max: 6 })),
  })
  const classes = fc.uniqueArray(
    fc.record({ channels: fc.subarray([...CHANNELS], { minLength: 1 }), size: fc.integer({ min: 1, max: 3 }) }),
    { selector: ({ channels }) => channels.join(), maxLength: 3 },
  )

  /** Every way to give each person one of their channels or none, each judged by what a plan seeks. */
  function best(of: readonly ReachClass[], { order: used, most, cost, budget, people: cap }: ReachWanted): number[] {
    const people = of.flatMap(({ channels, size }) =>
      Array.from({ length: size }, () => [null, ...used.filter((c) => channels.includes(c))]),
    )
    let found: number[] | null = null
    const better = (a: number[], b: number[]) => {
      for (const [i, own] of a.entries()) if (own !== b[i]) return own > b[i]
      return false
    }
    const go = (at: number, counts: number[], spent: number) => {
      if (at === people.length) {
        const worth = [counts.reduce((x, y) => x + y, 0), ...counts, -spent]
        if (found === null || better(worth, found)) found = worth
        return
      }
      for (const channel of people[at]) {
        if (channel === null) {
          go(at + 1, counts, spent)
          continue
        }
        const c = used.indexOf(channel)
        const [limit, next] = [most[channel] ?? Number.POSITIVE_INFINITY, spent + (cost[channel] ?? 0)]
        if (counts[c] + 1 > limit || next > (budget ?? Number.POSITIVE_INFINITY)) continue
        if (counts.reduce((x, y) => x + y, 1) > (cap ?? Number.POSITIVE_INFINITY)) continue
        counts[c]++
        go(at + 1, counts, next)
        counts[c]--
      }
    }
    go(
      0,
      used.map(() => 0),
      0,
    )
    return found as unknown as number[]
  }

  test('is what trying every way finds, on small lists', () => {
    fc.assert(
      fc.property(classes, wanted, (of, asked) => {
        const plan = planReach(of, asked)
        const counts = asked.order.map((_, c) => plan.given.reduce((all, own) => all + own[c], 0))
        expect([plan.people, ...counts, -plan.cost].map((n) => n + 0)).toEqual(best(of, asked).map((n) => n + 0))
        plan.given.forEach((own, i) => {
          expect(own.every((n) => n >= 0)).toBe(true)
          expect(own.reduce((a, b) => a + b, 0)).toBeLessThanOrEqual(of[i].size)
          asked.order.forEach((channel, c) => {
            if (!of[i].channels.includes(channel)) expect(own[c]).toBe(0)
          })
        })
      }),
      { numRuns: 400 },
    )
  })

  test('of a large list adds up, whatever is asked', () => {
    const many = fc.uniqueArray(
      fc.record({ channels: fc.subarray([...CHANNELS], { minLength: 1 }), size: fc.integer({ min: 1, max: 100_000 }) }),
      { selector: ({ channels }) => channels.join(), maxLength: 15 },
    )
    const large = fc.record({
      order,
      most: fc.record({ phone: fc.option(fc.integer({ min: 0, max: 50_000 })) }),
      cost: costs,
      budget: fc.option(fc.integer({ min: 0, max: 900_000 })),
    })
    fc.assert(
      fc.property(many, large, (of, asked) => {
        const plan = planReach(of, asked)
        const given = plan.given.flat().reduce((a, b) => a + b, 0)
        expect(given).toBe(plan.people)
        expect(plan.cost).toBeLessThanOrEqual(asked.budget ?? Number.POSITIVE_INFINITY)
        const reachable = of.filter(({ channels }) => channels.some((c) => asked.order.includes(c))).reduce((a, { size }) => a + size, 0)
        if (asked.budget === null && (asked.most.phone ?? null) === null) expect(plan.people).toBe(reachable)
      }),
    )
  })
})

import fc from 'fast-check'
import jstat from 'jstat'
import { describe, expect, test } from 'vitest'
import { draw, drawPlainly } from '@/core/checks/draw'
import { allocated, judged, sampleSize, sequentially } from '@/core/checks/plan'
import { Random } from '@/core/checks/random'
import { estimate, SURENESS, type Stratum, wilson, Z } from '@/core/checks/share'

describe('quantiles', () => {
  test.each(SURENESS)('of %i %% are those of the reference library', (sure) => {
    expect(Z[sure]).toBeCloseTo(jstat.normal.inv(0.5 + sure / 200, 0, 1), 6)
  })
})

describe('Wilson’s interval', () => {
  // Check values of ../shared/STACK.md, from memory there: Wilson, 95 %.
  test('5 of 50 and 0 of 80', () => {
    const five = wilson(5, 50, Z[95])
    expect([five.low.toFixed(4), five.high.toFixed(4)]).toEqual(['0.0435', '0.2136'])
    expect(wilson(0, 80, Z[95]).low).toBe(0)
    expect(wilson(0, 80, Z[95]).high.toFixed(4)).toBe('0.0458')
  })

  // The ends are where the normal test of the share just fails: the equation that Wilson (1927) solves.
  test('its ends solve the equation it stands for', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.double({ min: 0.01, max: 0.99, noNaN: true }), (whole, share) => {
        const part = share * whole
        for (const end of Object.values(wilson(part, whole, Z[90])))
          expect((share - end) ** 2).toBeCloseTo((Z[90] ** 2 * end * (1 - end)) / whole, 8)
      }),
    )
  })

  test('nothing seen says nothing', () => {
    expect(wilson(0, 0, Z[95])).toEqual({ low: 0, high: 1 })
  })
})

describe('the estimate over strata', () => {
  test('weighs each by its size, and speaks only of those it has seen', () => {
    const told = estimate(
      [
        { size: 900, seen: 9, fit: 9 },
        { size: 100, seen: 10, fit: 5 },
        { size: 40, seen: 0, fit: 0 },
      ],
      Z[95],
    )
    expect(told.share).toBeCloseTo(0.95, 10)
    expect(told.covers).toBe(1000)
    expect(estimate([{ size: 10, seen: 0, fit: 0 }], Z[95])).toEqual({ share: null, low: 0, high: 1, covers: 0 })
  })

  test('of a list that was looked at whole is certain', () => {
    const told = estimate([{ size: 12, seen: 12, fit: 9 }], Z[99])
    expect(told).toEqual({ share: 0.75, low: 0.75, high: 0.75, covers: 12 })
  })

  const stratum: fc.Arbitrary<Stratum> = fc
    .tuple(fc.integer({ min: 1, max: 5000 }), fc.integer({ min: 0, max: 90 }), fc.double({ min: 0, max: 1, noNaN: true }))
    .map(([size, seen, share]) => ({ size, seen: Math.min(size, seen), fit: Math.round(Math.min(size, seen) * share) }))

  test('lies within its interval, which lies between nought and one; more sure is wider', () => {
    fc.assert(
      fc.property(fc.array(stratum, { minLength: 1, maxLength: 5 }), (strata) => {
        const [less, more] = [estimate(strata, Z[90]), estimate(strata, Z[99])]
        expect(more.low).toBeGreaterThanOrEqual(0)
        expect(more.high).toBeLessThanOrEqual(1)
        expect(more.low).toBeLessThanOrEqual(less.low + 1e-12)
        expect(more.high).toBeGreaterThanOrEqual(less.high - 1e-12)
        if (less.share !== null) {
          expect(less.low).toBeLessThanOrEqual(less.share + 1e-9)
          expect(less.high).toBeGreaterThanOrEqual(less.share - 1e-9)
        }
      }),
    )
  })

  // Ten thousand samples a county; with the seed of this test. 95 % less three standard errors of the simulation, and the
  // well-known dips of Wilson's interval near the ends (Brown, Cai and DasGupta, Statistical Science 16, 2001).
  test.each([
    ['one stratum, nine in ten', [{ size: 2000, share: 0.9 }], 80],
    [
      'three strata that differ',
      [
        { size: 5000, share: 0.96 },
        { size: 900, share: 0.6 },
        { size: 550, share: 1 },
      ],
      90,
    ],
    [
      'a small list',
      [
        { size: 150, share: 0.88 },
        { size: 60, share: 0.7 },
      ],
      60,
    ],
  ])('holds the true share as often as it says: %s', (_, county, size) => {
    const random = new Random(20261128)
    const sizes = county.map((own) => own.size)
    const counts = allocated(sizes, size)
    const truth = county.reduce((sum, own) => sum + Math.round(own.size * own.share), 0) / sizes.reduce((a, b) => a + b, 0)
    let held = 0
    const times = 4000
    for (let i = 0; i < times; i++) {
      const { low, high } = estimate(
        county.map((own, s) => ({
          size: own.size,
          seen: counts[s],
          fit: drawn(own.size, Math.round(own.size * own.share), counts[s], random),
        })),
        Z[95],
      )
      if (low <= truth && truth <= high) held++
    }
    expect(held / times).toBeGreaterThan(0.93)
  })
})

/** How many of `many` records drawn without putting back are among the first `marked` of `size`. */
function drawn(size: number, marked: number, many: number, random: Random): number {
  let [left, rest, found] = [size, marked, 0]
  for (let i = 0; i < many; i++) {
    if (random.next() * left < rest) {
      found++
      rest--
    }
    left--
  }
  return found
}

describe('plans', () => {
  // Cochran's worked figures of ../shared/STACK.md, from memory there: plus or minus 5 %.
  test('the size of a sample', () => {
    expect(sampleSize(1e9, 0.5, 0.05, Z[95])).toBe(385)
    expect(sampleSize(1000, 0.5, 0.05, Z[95])).toBe(278)
    expect(sampleSize(30, 0.9, 0.05, Z[95])).toBeLessThanOrEqual(30)
  })

  test('a fixed sample passes or fails only where its whole interval does', () => {
    expect(judged({ wanted: 0.9 }, { low: 0.9, high: 0.97 })).toBe('passes')
    expect(judged({ wanted: 0.9 }, { low: 0.7, high: 0.89 })).toBe('fails')
    expect(judged({ wanted: 0.9 }, { low: 0.85, high: 0.95 })).toBe('open')
  })

  test.each([
    ['the wanted share fits, and it fails', 0.9, 'fails'],
    ['the poor share fits, and it passes', 0.75, 'passes'],
  ] as const)('a sequential plan errs no more often than it says: %s', (_, share, wrong) => {
    const plan = { wanted: 0.9, poor: 0.75, sure: 95 as const }
    const random = new Random(7)
    let erred = 0
    const times = 4000
    for (let i = 0; i < times; i++) {
      let [fit, unfit] = [0, 0]
      let out: ReturnType<typeof sequentially> = 'open'
      while (out === 'open') {
        if (random.chance(share)) fit++
        else unfit++
        out = sequentially(plan, fit, unfit)
      }
      if (out === wrong) erred++
    }
    expect(erred / times).toBeLessThanOrEqual(0.05 + 3 * Math.sqrt((0.05 * 0.95) / times))
  })

  test('strata share a sample in proportion: none gets more than it holds, each two where it can', () => {
    expect(allocated([512, 88, 55], 90)).toEqual([70, 12, 8])
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 3000 }), { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 1, max: 400 }),
        (sizes, n) => {
          const given = allocated(sizes, n)
          const all = sizes.reduce((a, b) => a + b, 0)
          const least = sizes.reduce((sum, size) => sum + Math.min(2, size), 0)
          expect(given.reduce((a, b) => a + b, 0)).toBe(Math.min(all, Math.max(n, least)))
          given.forEach((own, i) => {
            expect(own).toBeGreaterThanOrEqual(Math.min(2, sizes[i]))
            expect(own).toBeLessThanOrEqual(sizes[i])
          })
        },
      ),
    )
  })
})

describe('a sample', () => {
  const strata = [Array.from({ length: 60 }, (_, i) => i), Array.from({ length: 20 }, (_, i) => 100 + i), [900]]

  test('is the same for a seed, another for another, and names nobody twice', () => {
    const one = draw(strata, 24, 5)
    expect(draw(strata, 24, 5)).toEqual(one)
    expect(draw(strata, 24, 6)).not.toEqual(one)
    expect(new Set(one.map(({ id }) => id)).size).toBe(24)
    for (const { id, stratum } of one) expect(strata[stratum]).toContain(id)
    expect(draw(strata, 500, 5)).toHaveLength(81)
  })

  test('comes in an order of its own, so that a sample broken off is not of one stratum', () => {
    expect(
      new Set(
        draw(strata, 40, 3)
          .slice(0, 12)
          .map(({ stratum }) => stratum),
      ).size,
    ).toBeGreaterThan(1)
  })

  // 81 records, 9 drawn, 9,000 times: each is expected 1,000 times; the reference library gives the bound of the test of fit.
  test('drawn plainly has each record equally often', () => {
    const counts = new Map<number, number>()
    for (let seed = 0; seed < 9000; seed++) for (const { id } of drawPlainly(strata, 9, seed)) counts.set(id, (counts.get(id) ?? 0) + 1)
    const off = strata.flat().reduce((sum, id) => sum + ((counts.get(id) ?? 0) - 1000) ** 2 / 1000, 0)
    expect(off).toBeLessThan(jstat.chisquare.inv(0.9999, 80))
  })
})

import fc from 'fast-check'
import jstat from 'jstat'
import { describe, expect, test } from 'vitest'
import { adjusted, testable } from '@/core/checks/adjust'
import { agreement } from '@/core/checks/agreement'
import { fisherUpper } from '@/core/checks/fisher'
import { type Judged, MOST_BY_CHANCE, patterns, shared, sharedByTwo } from '@/core/checks/patterns'
import { Random } from '@/core/checks/random'

describe('Fisher’s exact test', () => {
  // ../shared/STACK.md, from memory there: Fisher's tea (3,1;1,3), one-sided .2429; hypergeometric N 1000, 10 bad, n 80: P(0) .4327.
  test('the tea, and ten bad ones among a thousand', () => {
    expect(fisherUpper({ both: 3, marked: 4, group: 4, all: 8 }).toFixed(4)).toBe('0.2429')
    expect((1 - fisherUpper({ both: 1, marked: 10, group: 80, all: 1000 })).toFixed(4)).toBe('0.4327')
  })

  test('is the upper tail that the reference library sums up', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 120 }).chain((all) => fc.tuple(fc.constant(all), fc.nat(all), fc.nat(all))),
        fc.nat(40),
        ([all, marked, group], both) => {
          let tail = 0
          for (let k = both; k <= Math.min(marked, group); k++)
            if (group - k <= all - marked) tail += jstat.hypgeom.pdf(k, all, marked, group)
          expect(fisherUpper({ both, marked, group, all })).toBeCloseTo(tail, 8)
        },
      ),
    )
  })
})

describe('adjusting for all that was tried', () => {
  // The 15 values of Benjamini and Hochberg (1995), from memory: 4 are rejected at .05.
  test('the published example', () => {
    const chances = [0.0001, 0.0004, 0.0019, 0.0095, 0.0201, 0.0278, 0.0298, 0.0344, 0.0459, 0.324, 0.4262, 0.5719, 0.6528, 0.759, 1]
    expect(adjusted(chances).filter((p) => p <= 0.05)).toHaveLength(4)
  })
  // The procedure as it is published: the largest k with p(k) no greater than k/m of the limit, and all up to it are rejected.
  test('rejects what the step-up procedure rejects, at any limit', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 40 }),
        fc.constantFrom(0.01, 0.05, 0.1, 0.3),
        (chances, limit) => {
          const sorted = [...chances].sort((a, b) => a - b)
          const k = sorted.findLastIndex((p, i) => p <= ((i + 1) / chances.length) * limit)
          const rejected = chances.filter((p) => k >= 0 && p <= sorted[k]).length
          expect(adjusted(chances).filter((p) => p <= limit + 1e-12).length).toBe(rejected)
        },
      ),
    )
  })
})

describe('which tests could show anything', () => {
  // By the definition: the smallest k of which no more than k tests can come to the limit shared by k.
  test('are those of the smallest number that shares the limit among no more', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 40 }), (least) => {
        const could = testable(least, 0.1)
        const many = (k: number) => least.filter((p) => p <= 0.1 / k).length
        const k = Array.from({ length: least.length + 1 }, (_, i) => i + 1).find((n) => many(n) <= n) as number
        expect(could.filter(Boolean)).toHaveLength(many(k))
        least.forEach((p, i) => expect(could[i]).toBe(p <= 0.1 / k))
      }),
    )
  })

  test('of ten tests of which two can be clear, two are adjusted for', () => {
    expect(testable([0.001, 0.04, ...Array(8).fill(0.2)], 0.1)).toEqual([true, true, ...Array(8).fill(false)])
    expect(testable([], 0.1)).toEqual([])
  })
})

describe('how far two people agree', () => {
  // A worked example of Cohen's coefficient, from memory: 20 both yes, 15 both no, 5 and 10 otherwise; .7 agree, kappa .4.
  test('the worked example', () => {
    const [one, other] = [new Map<number, string>(), new Map<number, string>()]
    const put = (many: number, a: string, b: string) => {
      for (let i = 0; i < many; i++) {
        other.set(one.size, b)
        one.set(one.size, a)
      }
    }
    put(20, 'yes', 'yes')
    put(5, 'yes', 'no')
    put(10, 'no', 'yes')
    put(15, 'no', 'no')
    one.set(99, 'yes')
    const told = agreement(one, other)
    expect(told).toMatchObject({ both: 50, same: 35 })
    expect(told.kappa).toBeCloseTo(0.4, 10)
    expect(agreement(one, new Map())).toEqual({ both: 0, same: 0, kappa: null })
    expect(agreement(new Map([[1, 'fits']]), new Map([[1, 'fits']]))).toEqual({ both: 1, same: 1, kappa: null })
  })
})

describe('patterns', () => {
  const values = (role: string, town: string) =>
    new Map([
      ['role word', role.split(' ')],
      ['town', [town]],
    ])

  test('counts each value once a record, of those that fit and those that do not', () => {
    expect(
      shared([
        { fits: true, values: values('site manager', 'Thornmouth') },
        { fits: false, values: values('site site assistant', 'Thornmouth') },
      ]),
    ).toEqual([
      { key: 'role word', label: 'site', fit: 1, unfit: 1 },
      { key: 'role word', label: 'manager', fit: 1, unfit: 0 },
      { key: 'town', label: 'Thornmouth', fit: 1, unfit: 1 },
      { key: 'role word', label: 'assistant', fit: 0, unfit: 1 },
    ])
  })

  /** A sample in which nothing but the planted word hangs together with whether a record fits. */
  function sample(seed: number, planted: boolean) {
    const random = new Random(seed)
    const records = Array.from({ length: 90 }, () => {
      const holiday = random.chance(0.12)
      const fits = planted && holiday ? random.chance(0.1) : random.chance(0.9)
      return {
        fits,
        values: new Map([
          ['industry', [holiday ? 'holiday let' : random.pick(['school', 'clinic', 'brewery'])]],
          ['town', [random.pick(['Thornmouth', 'Low Wendle', 'Kettlehythe', 'Saltrey Fen'])]],
          ['level', [random.pick(['head', 'manager', 'officer', 'trainee'])]],
        ]),
      }
    })
    const fit = records.filter((r) => r.fits).length
    return patterns([...shared(records), ...sharedByTwo(records, () => true)], { fit, unfit: records.length - fit })
  }

  test('one that was planted is found, first of all', () => {
    let found = 0
    for (let seed = 1; seed <= 200; seed++) if (sample(seed, true)[0]?.label === 'holiday let') found++
    expect(found).toBeGreaterThan(180)
  })

  test('where none was planted one is found no more often than is told', () => {
    let found = 0
    const times = 600
    for (let seed = 1; seed <= times; seed++) if (sample(seed, false).length > 0) found++
    expect(found / times).toBeLessThanOrEqual(MOST_BY_CHANCE + 3 * Math.sqrt((MOST_BY_CHANCE * (1 - MOST_BY_CHANCE)) / times))
  })

  /** Records of which neither a trainee nor a clinic is unfit, but a trainee of a clinic nearly always is. */
  const crossed = (seed: number): Judged[] => {
    const random = new Random(seed)
    return Array.from({ length: 160 }, () => {
      const [level, industry] = [random.chance(0.35) ? 'trainee' : 'manager', random.chance(0.35) ? 'clinic' : 'school']
      const isBoth = level === 'trainee' && industry === 'clinic'
      return {
        fits: isBoth ? random.chance(0.1) : random.chance(0.97),
        values: new Map([
          ['industry', [industry]],
          ['level', [level]],
          ['town', [random.pick(['Thornmouth', 'Low Wendle', 'Kettlehythe'])]],
        ]),
      }
    })
  }

  test('two values at once are found first where neither says it alone', () => {
    let first = 0
    for (let seed = 1; seed <= 100; seed++) {
      const records = crossed(seed)
      const fit = records.filter((r) => r.fits).length
      const [best] = patterns([...shared(records), ...sharedByTwo(records, () => true)], { fit, unfit: records.length - fit })
      if (best?.and && [best.label, best.and.label].sort().join() === 'clinic,trainee') first++
    }
    expect(first).toBeGreaterThan(90)
  })

  test('a pair that the same records have as one of the two alone is not counted, nor one that a single record has', () => {
    const of = (fits: boolean, role: string, town: string) => ({ fits, values: values(role, town) })
    const records = [of(false, 'caretaker', 'Thornmouth'), of(false, 'caretaker', 'Thornmouth'), of(true, 'bursar', 'Thornmouth')]
    // Every caretaker is in Thornmouth, so “caretaker in Thornmouth” says no more than “caretaker”.
    expect(sharedByTwo(records, () => true)).toEqual([])
    const more = [...records, of(true, 'caretaker', 'Low Wendle')]
    expect(sharedByTwo(more, () => true)).toEqual([
      { key: 'role word', label: 'caretaker', and: { key: 'town', label: 'Thornmouth' }, fit: 0, unfit: 2 },
    ])
    expect(sharedByTwo(more, (key) => key !== 'town')).toEqual([])
  })
})

import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { shareOut, sharesOf, type ToShare } from '@/core/rounds/share-out'

const one = (person: number, rest: Partial<ToShare> = {}): ToShare => ({
  person,
  group: `p${person}`,
  knows: [],
  had: null,
  territory: [],
  ...rest,
})
const among = (...shares: [string, number][]) => ({ colleagues: shares.map(([id, share]) => ({ id, share })), known: true, had: true })

describe('contacts are shared out', () => {
  test('by share, whoever is first having what is over', () => {
    const shared = shareOut(
      [1, 2, 3, 4, 5].map((person) => one(person)),
      among(['a', 1], ['b', 1]),
    )
    expect([...shared].map(([person, { colleague }]) => `${person}${colleague}`)).toEqual(['1a', '2b', '3a', '4b', '5a'])
    expect(
      sharesOf(
        shareOut(
          Array.from({ length: 40 }, (_, i) => one(i)),
          among(['a', 3], ['b', 1]),
        ),
      ).get('a')?.people,
    ).toBe(30)
  })
  test('to whoever knows them, then to whoever had them, and an organisation goes as one', () => {
    const people = [
      one(1, { group: 'o1', knows: ['b'] }),
      one(2, { group: 'o1', had: 'a' }),
      one(3, { group: 'o1' }),
      one(4, { had: 'a' }),
      one(5, { had: 'gone' }),
      one(6, { knows: ['a', 'b'] }),
    ]
    const told = (how: ReturnType<typeof among>) =>
      [...shareOut(people, how)].sort(([a], [b]) => a - b).map(([, { colleague, because }]) => `${colleague} ${because}`)
    expect(told(among(['a', 1], ['b', 1]))).toEqual(['b knows', 'b organisation', 'b organisation', 'a had', 'a share', 'a knows'])
    expect(told({ ...among(['a', 1], ['b', 1]), known: false })).toEqual([
      'a organisation',
      'a had',
      'a organisation',
      'a had',
      // Both the others are given to whoever has fewer.
      'b share',
      'b share',
    ])
    expect(told({ ...among(['b', 1]), known: false, had: false })).toEqual(Array(6).fill('b share'))
  })
  test('to nobody where nobody takes part', () => {
    expect(shareOut([one(1)], among()).size).toBe(0)
    expect(shareOut([one(1)], among(['a', 0])).size).toBe(0)
  })

  const COLLEAGUES = ['a', 'b', 'c', 'd']
  const person = fc.record({
    group: fc.option(fc.constantFrom('o1', 'o2', 'o3'), { nil: null }),
    knows: fc.subarray(COLLEAGUES),
    had: fc.option(fc.constantFrom(...COLLEAGUES, 'gone'), { nil: null }),
  })
  const people = fc
    .array(person, { maxLength: 60 })
    .map((all) => all.map(({ group, ...own }, i) => one(i + 1, { ...own, group: group ?? `p${i + 1}` })))
  const how = fc.record({
    colleagues: fc
      .uniqueArray(fc.tuple(fc.constantFrom(...COLLEAGUES), fc.integer({ min: 1, max: 9 })), { minLength: 1, selector: ([id]) => id })
      .map((all) => all.map(([id, share]) => ({ id, share }))),
    known: fc.boolean(),
    had: fc.boolean(),
  })
  test('everybody goes to exactly one of those who take part, and nobody of one organisation to another', () => {
    fc.assert(
      fc.property(people, how, (all, asked) => {
        const shared = shareOut(all, asked)
        expect([...shared.keys()].sort((a, b) => a - b)).toEqual(all.map((own) => own.person))
        const of = new Map<string, string>()
        for (const own of all) {
          const { colleague, because } = shared.get(own.person) as { colleague: string; because: string }
          expect(asked.colleagues.map(({ id }) => id)).toContain(colleague)
          expect(of.get(own.group) ?? colleague).toBe(colleague)
          of.set(own.group, colleague)
          if (because === 'knows') expect(own.knows).toContain(colleague)
          if (because === 'had') expect(own.had).toBe(colleague)
        }
        const shares = [...sharesOf(shared).values()]
        expect(shares.reduce((sum, own) => sum + own.people, 0)).toBe(all.length)
        for (const own of shares) expect(own.knows + own.had + own.organisation + own.share).toBe(own.people)
        expect([...shareOut(all, asked)]).toEqual([...shared])
      }),
    )
  })
  test('without groups and wishes nobody is a whole contact away from their share', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 80 }), how, (n, asked) => {
        const shares = sharesOf(
          shareOut(
            Array.from({ length: n }, (_, i) => one(i)),
            asked,
          ),
        )
        const whole = asked.colleagues.reduce((sum, { share }) => sum + share, 0)
        for (const { id, share } of asked.colleagues) expect(Math.abs((shares.get(id)?.people ?? 0) - (n * share) / whole)).toBeLessThan(1)
      }),
    )
  })
})

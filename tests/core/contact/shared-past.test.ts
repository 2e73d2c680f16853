import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { datePlusDays } from '@/core/calendar/local-day'
import { earlierStays, type Move, overlapOf, type OwnPost, sharedPosts, type Stay, staysOf } from '@/core/contact/shared-past'
import { byCloseness, TIES, type Tie } from '@/core/contact/ties'

const TODAY = '2026-06-30'
const day = (n: number) => datePlusDays('2026-01-01', n)

describe('where somebody was', () => {
  test('from the moves on record: before the first, between them, and since the last', () => {
    const moves: Move[] = [
      { from: 'Weir School', to: 'Larch House', when: { after: '2026-03-01', by: '2026-03-20' } },
      { from: 'Larch House', to: null, when: { after: '2026-05-31', by: '2026-06-01' } },
    ]
    expect(staysOf([...moves].reverse(), '2026-01-10', null, TODAY)).toEqual([
      { organisation: 'Weir School', began: null, ended: moves[0].when, certain: { since: '2026-01-10', through: '2026-03-01' } },
      { organisation: 'Larch House', began: moves[0].when, ended: moves[1].when, certain: { since: '2026-03-20', through: '2026-05-31' } },
    ])
    expect(staysOf([], '2026-01-10', 'Weir School', TODAY)).toEqual([
      { organisation: 'Weir School', began: null, ended: null, certain: { since: '2026-01-10', through: TODAY } },
    ])
    expect(staysOf([], '2026-01-10', null, TODAY)).toEqual([])
  })

  const stay: Stay = {
    organisation: 'Larch House',
    began: { after: '2026-02-28', by: '2026-03-31' },
    ended: { after: '2026-04-30', by: '2026-05-31' },
    certain: { since: '2026-03-31', through: '2026-04-30' },
  }
  test.each<[string, string, string | null, string]>([
    ['a day that is certain', '2026-04-30', '2026-12-31', 'yes'],
    ['ended before they can have come', '2020-01-01', '2026-02-28', 'no'],
    ['ended while they may have come', '2020-01-01', '2026-03-01', 'unknown'],
    ['began while they may have gone', '2026-05-31', null, 'unknown'],
    ['began after they must have gone', '2026-06-01', null, 'no'],
    ['goes on since before', '2025-01-01', null, 'yes'],
  ])('%s', (_, from, to, said) => {
    expect(overlapOf(stay, { organisation: 'Larch House', from, to }, TODAY)).toBe(said)
  })

  test('yes and no are what every way it can have been says', () => {
    const interval = fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 1, max: 30 })).map(([a, n]) => ({ a, b: a + n }))
    fc.assert(
      fc.property(interval, interval, fc.integer({ min: 0, max: 150 }), fc.integer({ min: 0, max: 60 }), (come, go, from, long) => {
        // Came on a day after come.a and by come.b; went likewise, later: the last day is the one before they went.
        const left = { a: come.b + 1 + go.a, b: come.b + 1 + go.b }
        const [own] = staysOf(
          [
            { from: null, to: 'Larch House', when: { after: day(come.a), by: day(come.b) } },
            { from: 'Larch House', to: null, when: { after: day(left.a), by: day(left.b) } },
          ],
          day(0),
          null,
          day(400),
        )
        const post: OwnPost = { organisation: 'Larch House', from: day(from), to: day(from + long) }
        const ways = []
        for (let c = come.a + 1; c <= come.b; c++) for (let l = left.a; l <= left.b; l++) ways.push(c <= from + long && l >= from)
        const said = overlapOf(own, post, day(400))
        if (said === 'yes') expect(ways.every(Boolean)).toBe(true)
        if (said === 'no') expect(ways.some(Boolean)).toBe(false)
        if (ways.every(Boolean)) expect(said).not.toBe('no')
      }),
    )
  })

  test('what somebody says of before is possible until their record came in, and certain on no day', () => {
    const [one, two] = earlierStays(' Larch House; Weir School ;', '2026-01-10')
    expect([one.organisation, two.organisation]).toEqual(['Larch House', 'Weir School'])
    expect(earlierStays(null, '2026-01-10')).toEqual([])
    expect(overlapOf(one, { organisation: 'Larch House', from: '2020-01-01', to: '2021-01-01' }, TODAY)).toBe('unknown')
    expect(overlapOf(one, { organisation: 'Larch House', from: '2026-01-11', to: null }, TODAY)).toBe('no')
  })

  test('shared posts are told by the name of the organisation, the surest first', () => {
    const posts = [
      { organisation: 'LARCH  house', from: '2026-05-31', to: null },
      { organisation: 'Larch House', from: '2026-04-01', to: null },
      { organisation: 'Weir School', from: '2026-04-01', to: null },
    ]
    expect(sharedPosts([stay], posts, TODAY).map(({ post, overlap }) => [post.from, overlap])).toEqual([
      ['2026-04-01', 'yes'],
      ['2026-05-31', 'unknown'],
    ])
  })
})

describe('who knows somebody', () => {
  const tie = (user: string, kind: Tie['kind'], last: string | null): Tie => ({ user, name: user, kind, last, evidence: '' })

  test('the closest first, the latest of equals first, each colleague once', () => {
    const told = byCloseness([
      tie('Tam', 'wrote to', '2026-06-01'),
      tie('Ines', 'met', '2025-01-01'),
      tie('Tam', 'met', '2026-01-01'),
      tie('Max', 'knows well', null),
    ])
    expect(told.map(({ name, ties }) => [name, ties.map(({ kind }) => kind)])).toEqual([
      ['Max', ['knows well']],
      ['Tam', ['met', 'wrote to']],
      ['Ines', ['met']],
    ])
  })

  test('loses no tie, in whatever order they come', () => {
    const any = fc.array(
      fc.record({
        user: fc.constantFrom('a', 'b', 'c'),
        kind: fc.constantFrom(...TIES),
        last: fc.option(fc.constantFrom('2026-01-01', '2026-02-01')),
      }),
      { maxLength: 9 },
    )
    fc.assert(
      fc.property(
        any.chain((all) => fc.tuple(fc.constant(all), fc.shuffledSubarray(all, { minLength: all.length }))),
        ([all, shuffled]) => {
          const ties = (of: typeof all) => byCloseness(of.map(({ user, kind, last }) => tie(user, kind, last)))
          expect(ties(shuffled)).toEqual(ties(all))
          expect(ties(all).flatMap((own) => own.ties)).toHaveLength(all.length)
        },
      ),
    )
  })
})

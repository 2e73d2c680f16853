import fc from 'fast-check'
import { priceText } from '@/core/text/written'
import { describe, expect, test } from 'vitest'
import { dearest, within } from '@/core/sources/enquiry'
import { bestSplit, partsOf, searchText, tooMany } from '@/core/sources/parts'
import type { FoundPage, Prices, Search } from '@/core/sources/source'
import { entry, searched } from '@/standins/searched'

const PRICES: Prices = {
  currency: 'GBP',
  fetch: 4,
  fill: { verified: 9, uncertain: 0, nothing: 0 },
  check: { verified: 1, uncertain: 0, bad: 1 },
}
const search: Search = { words: '', subKinds: [], districts: [] }

test('the dearest that can come of one decides what is promised', () => {
  expect((['find', 'fill', 'check'] as const).map((kind) => dearest(kind, PRICES))).toEqual([4, 9, 1])
  expect([priceText(0, 'GBP'), priceText(125, 'GBP'), priceText(5, 'SEK')]).toEqual(['£0.00', '£1.25', 'SEK\u00a00.05'])
})

test('a cap is never passed, and never stops short of what it allows', () => {
  fc.assert(
    fc.property(fc.nat(5000), fc.nat(5000), fc.integer({ min: 1, max: 40 }), fc.nat(300), (cap, spent, each, wanted) => {
      const cost = Math.min(spent, cap)
      const may = within(cap, cost, each, wanted)
      expect(cost + may * each).toBeLessThanOrEqual(cap)
      expect(may === wanted || cost + (may + 1) * each > cap).toBe(true)
    }),
  )
  expect(within(null, 100, 9, 7)).toBe(7)
  expect(within(0, 0, 0, 7)).toBe(7)
})

describe('a search that is split', () => {
  const entries = Array.from({ length: 400 }, (_, i) =>
    entry(
      {
        key: `K${i}`,
        name: `Thing ${i}`,
        kind: 'shed',
        subKind: ['a', 'b', 'c'][i % 3],
        district: ['North', 'South', 'East', 'West', 'Middle'][i % 5],
        postcode: 'PW1',
      },
      {},
    ),
  )
  const source = searched(entries)
  const all = (s: Search): { keys: string[]; first: FoundPage } => {
    const keys: string[] = []
    let page = source.find({ search: s, next: null } as never) as FoundPage
    const first = page
    for (;;) {
      keys.push(...page.items.map((item) => item.key))
      if (page.next === null) return { keys, first }
      page = source.find({ search: s, next: page.next } as never) as FoundPage
    }
  }
  test('comes whole, nothing twice, by either way that leaves no part too large', () => {
    const { keys, first } = all(search)
    expect(keys).toHaveLength(120)
    expect(tooMany(first)).toBe(true)
    expect(bestSplit(first)).toBe('district')
    const parts = partsOf(search, 'district', first).flatMap((part) => all(part).keys)
    expect(new Set(parts).size).toBe(400)
    expect(parts).toHaveLength(400)
    // Three sub-kinds of 133 each are still too many for 120 at once.
    expect(partsOf(search, 'sub-kind', first).every((part) => tooMany(all(part).first))).toBe(true)
  })
  test('words narrow it whatever their order and number', () => {
    const count = (words: string) => all({ ...search, words }).first.total
    expect([count('sheds north'), count('NORTH shed'), count('shed nowhere')]).toEqual([80, 80, 0])
    expect(searchText({ words: 'sheds', subKinds: ['a'], districts: ['North', 'East'] })).toBe('“sheds” of a in North or East')
  })
})

import fc from 'fast-check'
import { expect, test } from 'vitest'
import { Bitset } from '@/core/columns/bitset'
import { type Channel, CHANNELS } from '@/core/records/channels'
import { clearByExactly, waysClear } from '@/core/screening/ways'

const setsOf = (all: readonly (readonly Channel[])[]) =>
  Object.fromEntries(CHANNELS.map((c) => [c, Bitset.from(all.flatMap((own, n) => (own.includes(c) ? [n] : [])))])) as Record<
    Channel,
    Bitset
  >

test('everybody who is clear is counted once, by exactly their channels, the most first', () => {
  fc.assert(
    fc.property(fc.array(fc.subarray([...CHANNELS]), { maxLength: 120 }), (all) => {
      const clear = setsOf(all)
      const expected = new Map<string, number>()
      for (const own of all) if (own.length > 0) expected.set(own.join(), (expected.get(own.join()) ?? 0) + 1)
      const ways = waysClear(clear)
      expect(new Map(ways.map(({ channels, count }) => [channels.join(), count]))).toEqual(expected)
      expect(ways.map(({ count }) => count)).toEqual([...expected.values()].sort((a, b) => b - a))
      for (const { channels, count } of ways) expect(clearByExactly(clear, channels).count()).toBe(count)
    }),
  )
})

test('a set that was made shorter than the others counts all the same', () => {
  const clear = setsOf([['email'], ['email', 'post'], [], ['post']])
  clear.email = Bitset.of(clear.email.words.slice(0, 1))
  clear.phone = new Bitset()
  expect(waysClear(clear)).toEqual([
    { channels: ['email'], count: 1 },
    { channels: ['post'], count: 1 },
    { channels: ['email', 'post'], count: 1 },
  ])
})

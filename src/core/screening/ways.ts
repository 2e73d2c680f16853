import type { Bitset } from '../columns/bitset'
import { type Channel, CHANNELS } from '../records/channels'

/**
 * How many are clear by exactly which channels: from how many are clear by at least these, by inclusion and exclusion, since those can be
 * counted without a set of each.
 */
export function waysClear(clear: Readonly<Record<Channel, Bitset>>): { channels: Channel[]; count: number }[] {
  const sets = CHANNELS.map((channel) => clear[channel])
  const all = 1 << sets.length
  const [both, least] = [new Map<number, Bitset>(), new Array<number>(all).fill(0)]
  for (let mask = 1; mask < all; mask++) {
    const own = sets[31 - Math.clz32(mask)]
    const others = mask ^ (1 << (31 - Math.clz32(mask)))
    const rest = others === 0 ? own : (both.get(others) ?? sets[31 - Math.clz32(others)])
    least[mask] = rest.countAnd(own)
    if (others !== 0 && mask < all >> 1) both.set(mask, rest.and(own))
  }
  // Of each set of channels those that are clear by one more are taken off, channel by channel.
  const exactly = least.slice()
  for (let bit = 1; bit < all; bit <<= 1) for (let mask = 0; mask < all; mask++) if (!(mask & bit)) exactly[mask] -= exactly[mask | bit]
  return exactly
    .map((count, mask) => ({ channels: CHANNELS.filter((_, place) => (mask >> place) & 1), count }))
    .filter(({ channels, count }) => channels.length > 0 && count > 0)
    .sort((one, other) => other.count - one.count)
}

/** Whoever is clear by all of some channels and by no other. */
export function clearByExactly(clear: Readonly<Record<Channel, Bitset>>, channels: readonly Channel[]): Bitset {
  const others = CHANNELS.filter((c) => !channels.includes(c))
  const by = channels.map((c) => clear[c]).reduce((all, set) => all.and(set))
  return others.reduce((left, c) => left.andNot(clear[c]), by)
}

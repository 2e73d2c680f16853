import type { PeopleColumns } from '../columns/people-columns'
import { CHANNELS } from '../records/channels'
import type { StillOpen } from './kind'

/** By what it is decided who of a set stays. */
export const FIRST = ['most ways to reach', 'least often contacted', 'longest in the directory'] as const
export type First = (typeof FIRST)[number]

/** So many of those who somebody waits behind are named in their evidence. */
export const NAMED = 3

/** One of several who are still open, as they are ranked. */
export interface Ranked {
  id: number
  ways: number
  contacts: number
}

/** Who of a set comes before whom; even ones by id, so that the order is always the same. */
export function ranked(first: First, members: readonly Ranked[]): Ranked[] {
  const by = (a: Ranked, b: Ranked) =>
    first === 'most ways to reach' ? b.ways - a.ways : first === 'least often contacted' ? a.contacts - b.contacts : 0
  return [...members].sort((a, b) => by(a, b) || a.id - b.id)
}

/** Record numbers of a set in the order in which they stay. */
export function rankedNumbers(first: First, columns: PeopleColumns, open: StillOpen, members: readonly number[]): number[] {
  const sets = CHANNELS.map((channel) => open.clear[channel])
  const ways = (n: number) => sets.reduce((sum, set) => sum + (set.has(n) ? 1 : 0), 0)
  // The same order as `ranked` has: those that are counted are counted once.
  const value = new Map(
    members.map((n) => [n, first === 'most ways to reach' ? -ways(n) : first === 'least often contacted' ? columns.contacts.count(n) : 0]),
  )
  return [...members].sort((a, b) => (value.get(a) as number) - (value.get(b) as number) || columns.idAt(a) - columns.idAt(b))
}

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
  const own = members.map((n) => ({
    id: columns.idAt(n),
    ways: CHANNELS.filter((channel) => open.clear[channel].has(n)).length,
    contacts: columns.contacts.count(n),
  }))
  return ranked(first, own).map(({ id }) => columns.numberFor(id) as number)
}

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

/** A number for each record, to compare by while a set is put in order; written anew for each set. */
const scratch = new WeakMap<PeopleColumns, Int32Array>()
function scratchOf(columns: PeopleColumns): Int32Array {
  let values = scratch.get(columns)
  if (!values || values.length < columns.size) scratch.set(columns, (values = new Int32Array(columns.size * 1.2 + 8)))
  return values
}

/** Record numbers of a set in the order in which they stay: the same order as `ranked` has. */
export function rankedNumbers(first: First, columns: PeopleColumns, open: StillOpen, members: ArrayLike<number>): number[] {
  const order = new Array<number>(members.length)
  for (let i = 0; i < order.length; i++) order[i] = members[i]
  if (order.length < 2) return order
  const byId = (a: number, b: number) => columns.idAt(a) - columns.idAt(b)
  if (first === 'longest in the directory') return order.sort(byId)
  const value = scratchOf(columns)
  const sets = CHANNELS.map((channel) => open.clear[channel])
  // Those that are counted are counted once.
  for (const n of order)
    value[n] = first === 'most ways to reach' ? -sets.reduce((sum, set) => sum + (set.has(n) ? 1 : 0), 0) : columns.contacts.count(n)
  return order.sort((a, b) => value[a] - value[b] || byId(a, b))
}

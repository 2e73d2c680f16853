import type { GroupOf } from '../records/person-record'
import { CHANNELS, type Way } from '../records/channels'
import type { PeopleColumns } from '../columns/people-columns'

export const GROUP_NAME: Record<GroupOf, string> = { organisation: 'one organisation', household: 'one household' }

/** The group of each record number, from 0 on, −1 of whoever belongs to none; how many groups there may be, and who is in each. */
export interface Groups {
  of: Int32Array
  size: number
  members(): ReadonlyMap<number, readonly number[]>
}

const known = new WeakMap<PeopleColumns, { version: number; groups: Map<GroupOf, Groups> }>()

/** The groups of everybody; worked out once until a record changes. */
export function groupsOf(columns: PeopleColumns, by: GroupOf): Groups {
  let kept = known.get(columns)
  if (kept?.version !== columns.version) known.set(columns, (kept = { version: columns.version, groups: new Map() }))
  const before = kept.groups.get(by)
  if (before) return before
  const { of, size } = by === 'organisation' ? organisations(columns) : households(columns)
  let members: Map<number, number[]> | null = null
  const groups = { of, size, members: () => (members ??= membersOf(columns, of)) }
  kept.groups.set(by, groups)
  return groups
}

function organisations(columns: PeopleColumns): { of: Int32Array; size: number } {
  const of = new Int32Array(columns.size).fill(-1)
  const { all } = columns.employer
  let most = -1
  columns.live.forEach((n) => {
    const group = n < all.length ? all[n] : -1
    of[n] = group
    if (group > most) most = group
  })
  return { of, size: most + 1 }
}

const POST = CHANNELS.indexOf('post')

/** Whoever has no organisation by the key of their first usable postal address, as far as it is known. */
function households(columns: PeopleColumns): { of: Int32Array; size: number } {
  const of = new Int32Array(columns.size).fill(-1)
  const places = new Map<number, number>()
  const { channel, usable, key } = columns.addresses.fields
  columns.live.forEach((n) => {
    if (columns.employer.at(n) >= 0) return
    const first = columns.addresses.first(n)
    for (let row = first; row < first + columns.addresses.count(n); row++) {
      if (channel[row] !== POST || usable[row] !== 1 || key[row] === 0) continue
      let place = places.get(key[row])
      if (place === undefined) places.set(key[row], (place = places.size))
      of[n] = place
      return
    }
  })
  return { of, size: places.size }
}

function membersOf(columns: PeopleColumns, of: Int32Array): Map<number, number[]> {
  const members = new Map<number, number[]>()
  columns.live.forEach((n) => {
    if (of[n] < 0) return
    const own = members.get(of[n])
    if (own) own.push(n)
    else members.set(of[n], [n])
  })
  return members
}

/** Of each group its members who were contacted lately, and how many; groups of which nobody was have no members here. */
export interface Contacted {
  members: ReadonlyMap<number, readonly number[]>
  counts: Int32Array
}

/** So many spans of days are kept: a policy has few rules that count a group together. */
const MOST_SPANS = 4
const spans = new WeakMap<Groups, Map<string, Contacted>>()

/** By group, its members who were contacted since an instant in some ways; kept until a record changes. */
export function contactedSince(columns: PeopleColumns, groups: Groups, ways: readonly Way[], from: number): Contacted {
  const kept = spans.get(groups) ?? new Map<string, Contacted>()
  spans.set(groups, kept)
  const key = `${from} ${ways.join()}`
  const before = kept.get(key)
  if (before) return before
  const { last } = columns.contactSums(ways, null)
  const members = new Map<number, number[]>()
  const counts = new Int32Array(groups.size)
  columns.live.between(last, from, Number.POSITIVE_INFINITY).forEach((n) => {
    const group = groups.of[n]
    if (group < 0) return
    counts[group]++
    const own = members.get(group)
    if (own) own.push(n)
    else members.set(group, [n])
  })
  for (const oldest of [...kept.keys()].slice(0, Math.max(0, kept.size + 1 - MOST_SPANS))) kept.delete(oldest)
  const found = { members, counts }
  kept.set(key, found)
  return found
}

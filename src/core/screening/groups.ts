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

/** By group, its members who were contacted since an instant in some ways; of the groups that are `wanted` (a flag each) alone. */
export function contactedSince(
  columns: PeopleColumns,
  { of }: Groups,
  ways: readonly Way[],
  from: number,
  wanted: Uint8Array,
): Map<number, number[]> {
  const { last } = columns.contactSums(ways, null)
  const found = new Map<number, number[]>()
  columns.live.forEach((n) => {
    const group = of[n]
    if (group < 0 || last[n] < from || wanted[group] === 0) return
    const own = found.get(group)
    if (own) own.push(n)
    else found.set(group, [n])
  })
  return found
}

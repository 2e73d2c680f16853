import type { GroupOf } from '../records/person-record'
import { CHANNELS, type Way } from '../records/channels'
import type { PeopleColumns } from '../columns/people-columns'

export const GROUP_NAME: Record<GroupOf, string> = { organisation: 'one organisation', household: 'one household' }

/** The group of each record number, −1 of whoever belongs to none, and the record numbers of each group. */
export interface Groups {
  of: Float64Array
  members(): ReadonlyMap<number, readonly number[]>
}

const known = new WeakMap<PeopleColumns, { version: number; groups: Map<GroupOf, Groups> }>()

/** The groups of everybody; worked out once until a record changes. */
export function groupsOf(columns: PeopleColumns, by: GroupOf): Groups {
  let kept = known.get(columns)
  if (kept?.version !== columns.version) known.set(columns, (kept = { version: columns.version, groups: new Map() }))
  const before = kept.groups.get(by)
  if (before) return before
  const of = new Float64Array(columns.size).fill(-1)
  columns.live.forEach((n) => {
    of[n] = by === 'organisation' ? columns.employer.at(n) : householdAt(columns, n)
  })
  let members: Map<number, number[]> | null = null
  const groups = { of, members: () => (members ??= membersOf(columns, of)) }
  kept.groups.set(by, groups)
  return groups
}

function membersOf(columns: PeopleColumns, of: Float64Array): Map<number, number[]> {
  const members = new Map<number, number[]>()
  columns.live.forEach((n) => {
    if (of[n] >= 0) push(members, of[n], n)
  })
  return members
}

function push(members: Map<number, number[]>, group: number, n: number): void {
  const own = members.get(group)
  if (own) own.push(n)
  else members.set(group, [n])
}

const POST = CHANNELS.indexOf('post')

/** The key of the postal address of somebody without an organisation; −1 where there is none. */
function householdAt(columns: PeopleColumns, n: number): number {
  if (columns.employer.at(n) >= 0) return -1
  const { channel, usable, key } = columns.addresses.fields
  const first = columns.addresses.first(n)
  for (let row = first; row < first + columns.addresses.count(n); row++)
    if (channel[row] === POST && usable[row] === 1 && key[row] > 0) return key[row]
  return -1
}

/** By group, its members who were contacted since an instant in some ways. */
export function contactedSince(columns: PeopleColumns, by: GroupOf, ways: readonly Way[], from: number): Map<number, number[]> {
  const { of } = groupsOf(columns, by)
  const { last } = columns.contactSums(ways, null)
  const found = new Map<number, number[]>()
  columns.live.forEach((n) => {
    if (of[n] >= 0 && last[n] >= from) push(found, of[n], n)
  })
  return found
}

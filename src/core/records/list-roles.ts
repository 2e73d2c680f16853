/** What somebody may do with a list, the least first; each holds those before it. */
export const LIST_ROLES = ['see', 'use', 'edit'] as const
export type ListRole = (typeof LIST_ROLES)[number]

/** What each lets somebody do, in words. */
export const ROLE_SAYS: Record<ListRole, string> = {
  see: 'look at it, comment on its lines and propose others',
  use: 'also copy it, name it in lines of other lists, take its file and start rounds',
  edit: 'also save editions and settle proposals',
}

/** Whether a role, or none, is enough for something. */
export const allows = (role: ListRole | null, needed: ListRole): boolean =>
  role !== null && LIST_ROLES.indexOf(role) >= LIST_ROLES.indexOf(needed)

/** Who may do what: everybody of the team (null: nothing), and some by name. */
export interface Sharing {
  team: ListRole | null
  members: { id: string; role: ListRole }[]
}

/** A sharing from outside. Throws an Error that says what is wrong. */
export function validSharing(raw: unknown): Sharing {
  const given = (raw ?? {}) as { team?: unknown; members?: unknown }
  const members = Array.isArray(given.members) ? given.members : []
  if (members.length > 200) throw new Error('a list is shared with at most 200 people by name')
  if (given.team !== null && !isRole(given.team)) throw new Error('say what the team may do')
  const byId = new Map<string, ListRole>()
  for (const member of members) {
    if (typeof member?.id !== 'string' || !isRole(member.role)) throw new Error('say who may do what')
    byId.set(member.id, member.role)
  }
  return { team: given.team, members: [...byId].map(([id, role]) => ({ id, role })) }
}

const isRole = (value: unknown): value is ListRole => LIST_ROLES.includes(value as ListRole)

import type { Knex } from '@/db/connection'

/** Returns whom a list was shared with by name, and as what. */
export async function memberRows(trx: Knex, id: number) {
  return await trx('list_member as m')
    .join('user as u', 'u.id', 'm.user_id')
    .where({ list_id: id })
    .orderBy('u.name')
    .select('u.id', 'm.role')
}

/** Removes everybody whom a list was shared with by name. */
export async function deleteMembers(trx: Knex, id: number) {
  return await trx('list_member').where({ list_id: id }).delete()
}

/** Shares a list with colleagues by name. */
export async function insertMembers(trx: Knex, members: { list_id: number; user_id: string; role: 'see' | 'use' | 'edit' }[]) {
  return await trx('list_member').insert(members)
}

/** Removes one colleague from those a list was shared with by name. */
export async function deleteMember(trx: Knex, id: number, next: { id: string }) {
  return await trx('list_member').where({ list_id: id, user_id: next.id }).delete()
}

/** Lets a colleague edit a list. Used where its owner hands it over and stays with it. */
export async function insertEditor(trx: Knex, id: number, actorId: string) {
  return await trx('list_member').insert({ list_id: id, user_id: actorId, role: 'edit' })
}

/** Removes a colleague from every list that was shared with them. */
export async function deleteMembershipsOf(trx: Knex, whoId: string) {
  return await trx('list_member').where({ user_id: whoId }).delete()
}

/** Removes the memberships that a colleague has in lists they are about to own. */
export async function deleteMembershipsInListsOf(trx: Knex, actorId: string, whoId: string) {
  return await trx('list_member')
    .where({ user_id: actorId })
    .whereIn('list_id', trx('list').where({ owner_id: whoId }).select('id'))
    .delete()
}

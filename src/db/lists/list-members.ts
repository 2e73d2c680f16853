import type { Knex } from '@/db/connection'

export async function memberRows(trx: Knex, id: number) {
  return await trx('list_member as m')
    .join('user as u', 'u.id', 'm.user_id')
    .where({ list_id: id })
    .orderBy('u.name')
    .select('u.id', 'm.role')
}

export async function deleteMembers(trx: Knex, id: number) {
  return await trx('list_member').where({ list_id: id }).delete()
}

export async function insertMembers(trx: Knex, members: { list_id: number; user_id: string; role: 'see' | 'use' | 'edit' }[]) {
  return await trx('list_member').insert(members)
}

export async function deleteMember(trx: Knex, id: number, next: { id: string }) {
  return await trx('list_member').where({ list_id: id, user_id: next.id }).delete()
}

export async function insertEditor(trx: Knex, id: number, actorId: string) {
  return await trx('list_member').insert({ list_id: id, user_id: actorId, role: 'edit' })
}

export async function deleteMembershipsOf(trx: Knex, whoId: string) {
  return await trx('list_member').where({ user_id: whoId }).delete()
}

export async function deleteMembershipsInListsOf(trx: Knex, actorId: string, whoId: string) {
  return await trx('list_member')
    .where({ user_id: actorId })
    .whereIn('list_id', trx('list').where({ owner_id: whoId }).select('id'))
    .delete()
}

import type { POSTS } from '@/core/views/team-views'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

export async function namesOf(trx: Knex, listOwner_id: string, editionSaved_by: string) {
  return await trx('user').whereIn('id', [listOwner_id, editionSaved_by]).select('id', 'name')
}

export async function nameOf(trx: Knex, toDecided_by: string) {
  return await trx('user').where({ id: toDecided_by }).first('name')
}

export async function idOfName(trx: Knex, text: string) {
  return await trx('user').where({ name: text }).whereNull('left_at').first('id')
}

export async function countHere(trx: Knex, members: string[]) {
  return await trx('user').whereNull('left_at').whereIn('id', members).count('id as n').first()
}

export async function holdColleague(trx: Knex, to: string) {
  return await trx('user')
    .where({ id: String(to) })
    .whereNull('left_at')
    .forShare()
    .first('id')
}

/** Somebody of the team as they act; undefined once they have left. */
export async function actorRow(trx: Knex, id: string): Promise<{ id: string; name: string; post: (typeof POSTS)[number] } | undefined> {
  return await trx('user').where({ id }).whereNull('left_at').first('id', 'name', 'post')
}

export const colleagueRows = (trx: Knex) => trx('user').whereNull('left_at').orderBy('name').select('id', 'name')

export async function colleaguesWithLists(trx: Knex) {
  const { rows } = await trx.raw(
    `select u.id, u.name, u.post, u.email, (select count(*)::int from list l where l.owner_id = u.id and l.deleted_at is null) as lists from "user" u where u.left_at is null order by u.name, u.id`,
  )
  return rows
}

export async function leftRows(trx: Knex) {
  return await trx('user').whereNotNull('left_at').orderBy('left_at', 'desc').limit(100).select('id', 'name', 'left_at')
}

export async function lockTeam(trx: Knex) {
  return await trx.raw(`select pg_advisory_xact_lock(hashtext('team'))`)
}

export async function withEmail(trx: Knex, email: string, but: string) {
  return await trx('user').whereRaw('lower(email) = ?', [email]).whereNot('id', but).first('name', 'left_at')
}

export async function updateColleague(
  trx: Knex,
  beforeId: string,
  given: { name: string; email: string; post: 'manager' | 'coordinator' | 'caller' },
) {
  return await trx('user')
    .where({ id: beforeId })
    .update({ ...given, updatedAt: now() })
}

export async function lockColleague(trx: Knex, id: string) {
  return await trx('user')
    .where({ id: String(id) })
    .whereNull('left_at')
    .forUpdate()
    .first('id', 'name', 'post')
}

export async function anotherManager(trx: Knex, but: string) {
  return await trx('user').where({ post: 'manager' }).whereNull('left_at').whereNot('id', but).first('id')
}

export async function updatePassword(trx: Knex, whoId: string, hash: string) {
  return await trx('account').where({ userId: whoId, providerId: 'credential' }).update({ password: hash, updatedAt: now() })
}

export async function deleteSessions(trx: Knex, whoId: string) {
  return await trx('session').where({ userId: whoId }).delete()
}

export async function markLeft(trx: Knex, whoId: string) {
  return await trx('user').where({ id: whoId }).update({ left_at: now() })
}

export async function deleteAccount(trx: Knex, whoId: string) {
  return await trx('account').where({ userId: whoId }).delete()
}

export async function lockLeft(trx: Knex, id: string) {
  return await trx('user')
    .where({ id: String(id) })
    .whereNotNull('left_at')
    .forUpdate()
    .first('id')
}

export async function unmarkLeft(trx: Knex, left: { id: string }) {
  return await trx('user').where({ id: left.id }).update({ left_at: null })
}

export async function insertAccount(trx: Knex, left: { id: string }, hash: string) {
  return await trx('account').insert({ userId: left.id, accountId: left.id, providerId: 'credential', password: hash })
}

export async function emailRow(trx: Knex, actorId: string) {
  return await trx('user').where({ id: actorId }).first('email')
}

export async function namesOfAll(trx: Knex, actorIds: string[]) {
  return await trx('user').whereIn('id', actorIds).select('id', 'name')
}

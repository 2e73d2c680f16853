import type { POSTS } from '@/core/views/team-views'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

/** Returns the names of a list's owner and of whoever saved its edition. */
export async function namesOf(trx: Knex, owner: string, savedBy: string) {
  return await trx('user').whereIn('id', [owner, savedBy]).select('id', 'name')
}

/** Returns the name of a colleague, also of one who left. */
export async function nameOf(trx: Knex, id: string) {
  return await trx('user').where({ id }).first('name')
}

/** Returns the colleague of this name who has not left; undefined where there is none. */
export async function idOfName(trx: Knex, name: string) {
  return await trx('user').where({ name }).whereNull('left_at').first('id')
}

/** Returns how many of these colleagues have not left. */
export async function countHere(trx: Knex, members: string[]) {
  return await trx('user').whereNull('left_at').whereIn('id', members).count('id as n').first()
}

/** Keeps a colleague from leaving until the transaction ends; undefined where they left. */
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

/** Returns a query for the colleagues who have not left, by name. */
export const colleagueRows = (trx: Knex) => trx('user').whereNull('left_at').orderBy('name').select('id', 'name')

/** Returns the colleagues who have not left, with how many lists each owns. */
export async function colleaguesWithLists(trx: Knex) {
  const { rows } = await trx.raw(
    `select u.id, u.name, u.post, u.email, (select count(*)::int from list l where l.owner_id = u.id and l.deleted_at is null) as lists from "user" u where u.left_at is null order by u.name, u.id`,
  )
  return rows
}

/** Returns the colleagues who left, the last first, up to 100. */
export async function leftRows(trx: Knex) {
  return await trx('user').whereNotNull('left_at').orderBy('left_at', 'desc').limit(100).select('id', 'name', 'left_at')
}

/**
 * Takes the team's lock until the transaction ends. Whoever joins, leaves or changes post waits for it, so that one manager always stays.
 */
export async function lockTeam(trx: Knex) {
  return await trx.raw(`select pg_advisory_xact_lock(hashtext('team'))`)
}

/** Returns another colleague with this email address, also one who left. */
export async function withEmail(trx: Knex, email: string, but: string) {
  return await trx('user').whereRaw('lower(email) = ?', [email]).whereNot('id', but).first('name', 'left_at')
}

/** Writes name, email address and post of a colleague. */
export async function updateColleague(
  trx: Knex,
  id: string,
  given: { name: string; email: string; post: 'manager' | 'coordinator' | 'caller' },
) {
  return await trx('user')
    .where({ id })
    .update({ ...given, updatedAt: now() })
}

/** Locks a colleague who has not left. */
export async function lockColleague(trx: Knex, id: string) {
  return await trx('user')
    .where({ id: String(id) })
    .whereNull('left_at')
    .forUpdate()
    .first('id', 'name', 'post')
}

/** Returns a manager other than this one who has not left; undefined where there is none. */
export async function anotherManager(trx: Knex, but: string) {
  return await trx('user').where({ post: 'manager' }).whereNull('left_at').whereNot('id', but).first('id')
}

/** Writes the hash of a colleague's password. */
export async function updatePassword(trx: Knex, id: string, hash: string) {
  return await trx('account').where({ userId: id, providerId: 'credential' }).update({ password: hash, updatedAt: now() })
}

/** Signs a colleague out everywhere. */
export async function deleteSessions(trx: Knex, id: string) {
  return await trx('session').where({ userId: id }).delete()
}

/** Marks a colleague as left. */
export async function markLeft(trx: Knex, id: string) {
  return await trx('user').where({ id }).update({ left_at: now() })
}

/** Deletes the account of a colleague, so that they can no longer sign in. */
export async function deleteAccount(trx: Knex, id: string) {
  return await trx('account').where({ userId: id }).delete()
}

/** Locks a colleague who left. */
export async function lockLeft(trx: Knex, id: string) {
  return await trx('user')
    .where({ id: String(id) })
    .whereNotNull('left_at')
    .forUpdate()
    .first('id')
}

/** Marks a colleague as back. */
export async function unmarkLeft(trx: Knex, left: { id: string }) {
  return await trx('user').where({ id: left.id }).update({ left_at: null })
}

/** Inserts an account with the hash of its password for a colleague who is back. */
export async function insertAccount(trx: Knex, left: { id: string }, hash: string) {
  return await trx('account').insert({ userId: left.id, accountId: left.id, providerId: 'credential', password: hash })
}

/** Returns the email address of a colleague. */
export async function emailRow(trx: Knex, actorId: string) {
  return await trx('user').where({ id: actorId }).first('email')
}

/** Returns the names of colleagues, also of those who left. */
export async function namesOfAll(trx: Knex, actorIds: string[]) {
  return await trx('user').whereIn('id', actorIds).select('id', 'name')
}

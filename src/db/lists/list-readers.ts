import type { Knex } from '@/db/connection'

/** Returns when a colleague was last seen on a list, and whether they worked on it. */
export async function readerRow(trx: Knex, id: number, actorId: string) {
  return await trx('list_reader').where({ list_id: id, user_id: actorId }).first('at', 'working')
}

/** Keeps that a colleague has a list open, and whether they work on it. */
export async function writeReader(trx: Knex, id: number, actorId: string, at: Date, working: boolean) {
  return await trx('list_reader').insert({ list_id: id, user_id: actorId, at, working }).onConflict(['list_id', 'user_id']).merge()
}

/** Forgets that a colleague has a list open. */
export async function deleteReader(trx: Knex, id: number, actorId: string) {
  return await trx('list_reader').where({ list_id: id, user_id: actorId }).delete()
}

/** Returns a query for the others who had a list open within `most` milliseconds before `at`. */
export const readersSince = (trx: Knex, id: number, actorId: string, at: Date, most: number) =>
  trx('list_reader as r')
    .join('user as u', 'u.id', 'r.user_id')
    .where({ list_id: id })
    .whereNot('r.user_id', actorId)
    .where('r.at', '>', new Date(at.getTime() - most))
    .orderBy('u.name')
    .select('u.name', 'r.working')

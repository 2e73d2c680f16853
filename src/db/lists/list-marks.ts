import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'
import { validTable } from '@/core/facets/table'

/** Returns what a colleague saw when they last looked at a list; undefined where they never did. */
export async function lookRow(trx: Knex, listId: number, actorId: string) {
  return await trx('list_look').where({ list_id: listId, user_id: actorId }).first()
}

/** Returns what a colleague saw the time before they last looked at a list. */
export async function lookBeforeRow(trx: Knex, list: number, actorId: string) {
  return await trx('list_look').where({ list_id: list, user_id: actorId }).first('before')
}

/** Returns what a colleague saw on every list they have looked at. */
export async function looksOf(trx: Knex, actorId: string) {
  return await trx('list_look').where({ user_id: actorId }).select('list_id', 'latest')
}

/** Whether a colleague pinned a list: the row, or undefined. */
export async function pinRow(trx: Knex, id: number, actorId: string) {
  return await trx('list_pin').where({ list_id: id, user_id: actorId }).first('list_id')
}

/** Returns the columns that a colleague chose for a list. */
export async function tableRow(trx: Knex, listId: number, actorId: string) {
  return await trx('list_table').where({ list_id: listId, user_id: actorId }).first('columns')
}

/** Checks and keeps the columns that a colleague chose for a list. */
export async function writeTable(trx: Knex, id: number, actorId: string, raw: unknown, listSubject: Subject) {
  return await trx('list_table')
    .insert({ list_id: id, user_id: actorId, columns: JSON.stringify(validTable(raw, listSubject)) })
    .onConflict(['list_id', 'user_id'])
    .merge()
}

/** Pins a list for a colleague. Pinning twice changes nothing. */
export async function insertPin(trx: Knex, id: number, actorId: string) {
  return await trx('list_pin').insert({ list_id: id, user_id: actorId }).onConflict(['list_id', 'user_id']).ignore()
}

/** Unpins a list for a colleague. */
export async function deletePin(trx: Knex, id: number, actorId: string) {
  return await trx('list_pin').where({ list_id: id, user_id: actorId }).delete()
}

export interface Look {
  before: Buffer | null
  before_at: Date | null
  latest: Buffer
  latest_at: Date
}

/** Keeps what a colleague sees on a list now, and what they saw the time before. */
export async function writeLook(
  trx: Knex,
  {
    listId,
    actorId,
    look,
    packed,
    at,
  }: { listId: number; actorId: string; look: Look | undefined; packed: Buffer<ArrayBufferLike>; at: Date },
) {
  return await trx('list_look')
    .insert({
      list_id: listId,
      user_id: actorId,
      before: look?.latest ?? null,
      before_at: look?.latest_at ?? null,
      latest: packed,
      latest_at: at,
    })
    .onConflict(['list_id', 'user_id'])
    .merge()
}

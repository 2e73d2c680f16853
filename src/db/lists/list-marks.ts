import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'
import { validTable } from '@/core/facets/table'

export async function lookRow(trx: Knex, listId: number, actorId: string) {
  return await trx('list_look').where({ list_id: listId, user_id: actorId }).first()
}

export async function lookBeforeRow(trx: Knex, list: number, actorId: string) {
  return await trx('list_look').where({ list_id: list, user_id: actorId }).first('before')
}

export async function looksOf(trx: Knex, actorId: string) {
  return await trx('list_look').where({ user_id: actorId }).select('list_id', 'latest')
}

export async function pinRow(trx: Knex, id: number, actorId: string) {
  return await trx('list_pin').where({ list_id: id, user_id: actorId }).first('list_id')
}

export async function tableRow(trx: Knex, listId: number, actorId: string) {
  return await trx('list_table').where({ list_id: listId, user_id: actorId }).first('columns')
}

export async function writeTable(trx: Knex, id: number, actorId: string, raw: unknown, listSubject: Subject) {
  return await trx('list_table')
    .insert({ list_id: id, user_id: actorId, columns: JSON.stringify(validTable(raw, listSubject)) })
    .onConflict(['list_id', 'user_id'])
    .merge()
}

export async function insertPin(trx: Knex, id: number, actorId: string) {
  return await trx('list_pin').insert({ list_id: id, user_id: actorId }).onConflict(['list_id', 'user_id']).ignore()
}

export async function deletePin(trx: Knex, id: number, actorId: string) {
  return await trx('list_pin').where({ list_id: id, user_id: actorId }).delete()
}

export interface Look {
  before: Buffer | null
  before_at: Date | null
  latest: Buffer
  latest_at: Date
}

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

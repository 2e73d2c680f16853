import type { Knex } from '@/db/connection'

export async function readerRow(trx: Knex, id: number, actorId: string) {
  return await trx('list_reader').where({ list_id: id, user_id: actorId }).first('at', 'working')
}

export async function writeReader(trx: Knex, id: number, actorId: string, at: Date, working: boolean) {
  return await trx('list_reader').insert({ list_id: id, user_id: actorId, at, working }).onConflict(['list_id', 'user_id']).merge()
}

export async function deleteReader(trx: Knex, id: number, actorId: string) {
  return await trx('list_reader').where({ list_id: id, user_id: actorId }).delete()
}

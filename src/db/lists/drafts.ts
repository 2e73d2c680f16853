import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import type { Line } from '@/core/lists/line'

export async function draftRow(trx: Knex, id: number, actorId: string) {
  return await trx('list_draft').where({ list_id: id, user_id: actorId }).first('based_on', 'lines')
}

export async function lockDraft(trx: Knex, id: number, actorId: string) {
  return await trx.raw('select pg_advisory_xact_lock(hashtext(?))', [`draft ${id} ${actorId}`])
}

export async function draftLines(trx: Knex, id: number, actorId: string) {
  return await trx('list_draft').where({ list_id: id, user_id: actorId }).first('lines')
}

export async function deleteDraft(trx: Knex, id: number, actorId: string) {
  return await trx('list_draft').where({ list_id: id, user_id: actorId }).delete()
}

export async function putDraft(trx: Knex, id: number, actorId: string, basedOn: number, lines: Line[]) {
  return await trx('list_draft')
    .insert({ list_id: id, user_id: actorId, based_on: basedOn, lines: JSON.stringify(lines), at: now() })
    .onConflict(['list_id', 'user_id'])
    .merge()
}

export async function putDraftUnlessThere(trx: Knex, rowList_id: number, actorId: string, rowBased_on: number, rowLines: Line[]) {
  return await trx('list_draft')
    .insert({ list_id: rowList_id, user_id: actorId, based_on: rowBased_on, lines: JSON.stringify(rowLines), at: now() })
    .onConflict(['list_id', 'user_id'])
    .ignore()
}

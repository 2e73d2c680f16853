import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import type { Line } from '@/core/lists/line'

/** Returns the unsaved lines of a colleague on a list, and the edition they began from. */
export async function draftRow(trx: Knex, id: number, actorId: string) {
  return await trx('list_draft').where({ list_id: id, user_id: actorId }).first('based_on', 'lines')
}

/** Takes the lock on a colleague's draft of a list until the transaction ends. It also holds where there is no draft yet. */
export async function lockDraft(trx: Knex, id: number, actorId: string) {
  return await trx.raw('select pg_advisory_xact_lock(hashtext(?))', [`draft ${id} ${actorId}`])
}

/** Returns the unsaved lines of a colleague on a list. */
export async function draftLines(trx: Knex, id: number, actorId: string) {
  return await trx('list_draft').where({ list_id: id, user_id: actorId }).first('lines')
}

/** Deletes the draft of a colleague on a list. */
export async function deleteDraft(trx: Knex, id: number, actorId: string) {
  return await trx('list_draft').where({ list_id: id, user_id: actorId }).delete()
}

/** Writes the draft of a colleague on a list, replacing the one before. */
export async function putDraft(trx: Knex, id: number, actorId: string, basedOn: number, lines: Line[]) {
  return await trx('list_draft')
    .insert({ list_id: id, user_id: actorId, based_on: basedOn, lines: JSON.stringify(lines), at: now() })
    .onConflict(['list_id', 'user_id'])
    .merge()
}

/** Writes the draft of a colleague on a list, unless there is one: an undo never overwrites newer lines. */
export async function putDraftUnlessThere(trx: Knex, list: number, actorId: string, basedOn: number, lines: Line[]) {
  return await trx('list_draft')
    .insert({ list_id: list, user_id: actorId, based_on: basedOn, lines: JSON.stringify(lines), at: now() })
    .onConflict(['list_id', 'user_id'])
    .ignore()
}

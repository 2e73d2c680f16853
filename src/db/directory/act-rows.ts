import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

/** Locks an act on many records (a note, a tag, a hand-over) for its undo. */
export async function lockAct(trx: Knex, id: number) {
  return await trx('act').where({ id }).forUpdate().first()
}

/** Returns the entries of an act that nothing has reversed yet, with the value before. */
export async function entriesOfAct(trx: Knex, id: number) {
  return await trx('entry as e')
    .leftJoin('entry_value as v', 'v.id', 'e.value_id')
    .where({ 'e.act_id': id })
    .whereNull('e.reverses_id')
    .whereNotExists(trx('entry as r').select(trx.raw('1')).whereRaw('r.reverses_id = e.id'))
    .orderBy('e.id')
    .select('e.id', 'e.person_id', 'v.before')
}

/** Marks an act as undone, by whom and when. */
export async function updateUndone(trx: Knex, id: number, actorId: string) {
  return await trx('act').where({ id }).update({ undone_at: now(), undone_by: actorId })
}

/** Inserts an act on many records and returns its id. */
export async function insertAct(trx: Knex, kind: string, text: string, actorId: string) {
  return await trx('act').insert({ kind, text, actor_id: actorId, at: now() }, 'id')
}

import type { Knex } from '@/db/connection'
import { seenBy } from './list-rows'

/** The list somebody has in hand. One that was archived or deleted is in no hand, and in it again when that is undone. */
export async function handRow(trx: Knex, actorId: string) {
  return await trx('list_in_hand as h')
    .join('list as l', 'l.id', 'h.list_id')
    .where({ 'h.user_id': actorId })
    .whereNull('l.deleted_at')
    .whereNull('l.archived_at')
    .whereRaw(seenBy('l'), [actorId])
    .first('l.id', 'l.name', 'l.subject')
}

/** Puts down the list that a colleague has in hand. */
export async function dropHand(trx: Knex, actorId: string) {
  return await trx('list_in_hand').where({ user_id: actorId }).delete()
}

/** Makes a list the one a colleague has in hand, instead of the one before. */
export async function putInHand(trx: Knex, actorId: string, id: number) {
  return await trx('list_in_hand').insert({ user_id: actorId, list_id: id }).onConflict('user_id').merge()
}

import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

/** Returns the role wordings of the team, by name. */
export async function wordingRows(trx: Knex) {
  return await trx('role_wording').orderBy('name').select('id', 'name', 'says', 'but_not')
}

/** Saves a role wording. One of the same name, in any case of letters, is replaced. */
export async function writeWording(trx: Knex, name: string, says: string[], butNot: string[], actorId: string) {
  return await trx('role_wording')
    .insert({ name, says, but_not: butNot, edited_by: actorId, edited_at: now() }, ['id', 'name'])
    .onConflict(trx.raw('(lower(name))'))
    .merge(['name', 'says', 'but_not', 'edited_by', 'edited_at'])
}

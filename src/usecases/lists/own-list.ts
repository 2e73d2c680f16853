import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'
import type { ListRow } from '@/db/lists/list-rows'

/** Returns a list of one's own. Refuses where a colleague owns it, saying what only its owner can do. */
export async function ownList(actor: Actor, id: number, what: string, trx: Knex = db(), lock = false): Promise<ListRow> {
  const list = await listFor(actor, id, 'see', trx, lock)
  if (list.owner_id !== actor.id) throw new Refused(`A colleague owns this list. Only its owner can ${what}.`, 'not allowed')
  return list
}

import { db } from '@/db/connection'
import { deleteColumnSet } from '@/db/lists/column-sets'
import { type Actor, mayCoordinate, Refused } from '@/usecases/team/actor'

/** Deletes saved columns: one's own, or as a coordinator anybody's. Tables that were set up by them stay as they are. */
export async function dropColumnSet(actor: Actor, id: number): Promise<void> {
  if ((await deleteColumnSet(db(), id, mayCoordinate(actor) ? null : actor.id)) === 0)
    throw new Refused('There are no such saved columns, or a colleague saved them. Nothing was deleted.', 'not found')
}

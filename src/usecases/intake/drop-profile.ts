import { db } from '@/db/connection'
import { type Actor, mustCoordinate } from '@/usecases/team/actor'
import { deleteProfile } from '@/db/intake/mapping-rows'

/** Takes a saved mapping away; batches that came in by it stay as they are. */
export async function dropProfile(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Taking a mapping away')
  await deleteProfile(db(), id)
}

import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { deletePin, insertPin } from '@/db/lists/list-marks'

/** Keeps a list at the top of this person's own index, or no longer. */
export async function pinList(actor: Actor, id: number, top: boolean): Promise<void> {
  await listFor(actor, id)
  if (top) await insertPin(db(), id, actor.id)
  else await deletePin(db(), id, actor.id)
}

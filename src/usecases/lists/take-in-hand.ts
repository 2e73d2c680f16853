import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { dropHand, putInHand } from '@/db/lists/in-hand'

/** Takes a list in hand, or (null) puts it down. */
export async function takeInHand(actor: Actor, id: number | null): Promise<void> {
  if (id === null) {
    await dropHand(db(), actor.id)
    return
  }
  const list = await listFor(actor, id)
  if (list.archived_at !== null) throw new Refused('This list is archived. Take it out of the archive first.')
  await putInHand(db(), actor.id, id)
}

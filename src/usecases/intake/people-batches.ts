import { batchesOfPeople } from '@/db/intake/batch-rows'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'

/** Batches that a list can start with: those that brought people in. */
export async function peopleBatches(actor: Actor): Promise<{ id: number; name: string }[]> {
  return batchesOfPeople(db(), actor.id)
}

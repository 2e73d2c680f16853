import type { Batch } from '@/core/views/intake-views'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { batchRow, batchSeen } from '@/db/intake/batch-rows'

/** The batch of a number, for the work that goes on by itself; for a person there is `batchFor`. */
export async function batchOf(id: number): Promise<Batch> {
  const batch = Number.isSafeInteger(id) ? await batchRow(db(), id) : undefined
  if (!batch) throw new Refused('There is no such batch.', 'not found')
  return batch
}

/** A batch this person may see; one they may not is as good as none. Locked to the end of the transaction where asked. */
export async function batchFor(actor: Actor, id: number, trx: Knex = db(), lock = false): Promise<Batch> {
  const batch: Batch | undefined = Number.isSafeInteger(id) ? await batchSeen(trx, id, actor.id, lock) : undefined
  if (!batch) throw new Refused('There is no such batch.', 'not found')
  return batch
}

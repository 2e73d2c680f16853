import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { batchFor } from './batch-for'
import { enqueue } from '@/db/work/enqueue'
import { beginAgain } from '@/db/intake/batch-rows'

/** Starts bringing in a batch again that failed: it goes on after the rows that are in. */
export async function startBatchAgain(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Bringing in a file')
  await db().transaction(async (trx) => {
    const batch = await batchFor(actor, id, trx, true)
    if (batch.state !== 'failed') throw new Refused('Only a batch that failed can be started again.')
    await beginAgain(trx, id, batch.rows_total)
    await enqueue(trx, 'run-batch', { batch: id })
  })
}

import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { batchFor } from './batch-for'
import { enqueue } from '@/db/work/enqueue'
import { beginUndo } from '@/db/intake/batch-rows'

/** Begins to undo a batch. The job goes through its rows from the last to the first and writes what became of each. */
export async function undoBatch(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Undoing a batch')
  await db().transaction(async (trx) => {
    const batch = await batchFor(actor, id, trx, true)
    if (batch.state === 'undoing' || batch.state === 'undone') throw new Refused('This batch is undone already, or is being undone.')
    if (batch.state !== 'done' && batch.state !== 'failed')
      throw new Refused('The batch is still being brought in. It can be undone once it is in.')
    await beginUndo(trx, id, actor.id)
    await enqueue(trx, 'undo-batch', { batch: id })
  })
}

import { db, type Knex } from '@/db/connection'
import { queuedKeys } from '@/db/work/worker-pools'
import { enqueue, jobKey, type Jobs } from './enqueue'

/** A piece of work that is under way by its own state, and the job that does it. */
type Work = { [J in keyof Jobs]: { job: J; payload: Jobs[J] } }[keyof Jobs]

/** Everything that is under way, whatever its kind. */
async function underWay(trx: Knex): Promise<Work[]> {
  const batches: { id: number; state: string }[] = await trx('batch')
    .whereIn('state', ['queued', 'running', 'undoing'])
    .orderBy('id')
    .select('id', 'state')
  const trials: { id: number }[] = await trx('batch')
    .where({ state: 'mapping' })
    .whereRaw(`trial->>'state' = 'running'`)
    .orderBy('id')
    .select('id')
  const enquiries: { id: number }[] = await trx('enquiry').whereIn('state', ['asking', 'running']).orderBy('id').select('id')
  const searches: { id: number }[] = await trx('doubles_search').whereIn('state', ['queued', 'running']).orderBy('id').select('id')
  return [
    ...batches.map(
      ({ id, state }): Work =>
        state === 'undoing' ? { job: 'undo-batch', payload: { batch: id } } : { job: 'run-batch', payload: { batch: id } },
    ),
    ...trials.map(({ id }): Work => ({ job: 'try-batch', payload: { batch: id } })),
    ...enquiries.map(({ id }): Work => ({ job: 'run-enquiry', payload: { enquiry: id } })),
    ...searches.map(({ id }): Work => ({ job: 'find-doubles', payload: { search: id } })),
  ]
}

/**
 * Puts a job in the queue for everything that is under way and has none, as after a backup was brought back. What stands in the
 * queue is left alone. Returns how many were taken up.
 */
export async function takeUpWork(): Promise<number> {
  return db().transaction(async (trx) => {
    const work = await underWay(trx)
    if (work.length === 0) return 0
    const queued = await queuedKeys(trx)
    const missing = work.filter(({ job, payload }) => !queued.has(jobKey(job, payload as never)))
    for (const { job, payload } of missing) await enqueue(trx, job, payload as never)
    return missing.length
  })
}

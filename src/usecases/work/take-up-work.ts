import { db } from '@/db/connection'
import { queuedKeys } from '@/db/work/worker-pools'
import { jobKey } from './enqueue'
import { enqueue } from '@/db/work/enqueue'
import { underWay } from '@/db/work/under-way'

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

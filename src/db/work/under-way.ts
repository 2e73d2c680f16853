import type { Knex } from '@/db/connection'
import { comparisonsDue } from '@/db/screening/comparison-rows'
import { mailRunsDue } from '@/db/rounds/mail-rows'
import type { Jobs } from './enqueue'

/** Everything that is under way, whatever its kind. */
export async function underWay(trx: Knex): Promise<Work[]> {
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
    ...(await comparisonsDue(trx)).map(({ id }): Work => ({ job: 'compare-suppressions', payload: { comparison: id } })),
    ...(await mailRunsDue(trx)).map(({ id }): Work => ({ job: 'send-mail', payload: { run: id } })),
    ...searches.map(({ id }): Work => ({ job: 'find-doubles', payload: { search: id } })),
  ]
}

/** A piece of work that is under way by its own state, and the job that does it. */
export type Work = { [J in keyof Jobs]: { job: J; payload: Jobs[J] } }[keyof Jobs]

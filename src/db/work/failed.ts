import type { BatchTrial } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

/** Returns the trial of a batch that is not queued yet. */
export async function trialOf(trx: Knex, id: number) {
  return await trx('batch').where({ id, state: 'mapping' }).first('trial')
}

export const TRIED = 'It was tried several times and stopped each time.'

/** Marks a batch as failed, unless it ended meanwhile, and returns its file's name and who brought it. */
export async function failBatch(trx: Knex, error: string, id: number) {
  return await trx('batch').where({ id }).whereIn('state', ['queued', 'running']).update(
    {
      state: 'failed',
      finished_at: now(),
      error: error,
    },
    ['file_name', 'actor_id'],
  )
}

/** Marks the undo of a batch as failed: the batch is done again, with the error, and can be undone anew. */
export async function failUndo(trx: Knex, error: string, id: number) {
  return await trx('batch').where({ id, state: 'undoing' }).update({ state: 'done', error: error }, ['file_name', 'undone_by'])
}

/** Marks a trial of a batch as failed. */
export async function failTrial(trx: Knex, error: string, id: number, trial: BatchTrial | null) {
  return await trx('batch')
    .where({ id, state: 'mapping' })
    .update({ trial: JSON.stringify({ ...trial, state: 'failed', error: error }) })
}

/** Marks an enquiry as failed, unless it ended meanwhile, and returns its name and who asked. */
export async function failEnquiry(trx: Knex, note: string, id: number) {
  return await trx('enquiry')
    .where({ id })
    .whereIn('state', ['asking', 'running'])
    .update({ state: 'failed', note: note }, ['name', 'actor_id'])
}

/** Marks a search for duplicates as failed, unless it ended meanwhile, and returns who started it. */
export async function failSearch(trx: Knex, error: string, id: number) {
  return await trx('doubles_search')
    .where({ id })
    .whereIn('state', ['queued', 'running'])
    .update({ state: 'failed', finished_at: now(), error: error }, ['actor_id'])
}

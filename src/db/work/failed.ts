import type { BatchTrial } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

export async function trialOf(trx: Knex, id: number) {
  return await trx('batch').where({ id, state: 'mapping' }).first('trial')
}

export const TRIED = 'It was tried several times and stopped each time.'

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

export async function failUndo(trx: Knex, error: string, id: number) {
  return await trx('batch').where({ id, state: 'undoing' }).update({ state: 'done', error: error }, ['file_name', 'undone_by'])
}

export async function failTrial(trx: Knex, error: string, id: number, trial: BatchTrial | null) {
  return await trx('batch')
    .where({ id, state: 'mapping' })
    .update({ trial: JSON.stringify({ ...trial, state: 'failed', error: error }) })
}

export async function failEnquiry(trx: Knex, note: string, id: number) {
  return await trx('enquiry')
    .where({ id })
    .whereIn('state', ['asking', 'running'])
    .update({ state: 'failed', note: note }, ['name', 'actor_id'])
}

export async function failSearch(trx: Knex, error: string, id: number) {
  return await trx('doubles_search')
    .where({ id })
    .whereIn('state', ['queued', 'running'])
    .update({ state: 'failed', finished_at: now(), error: error }, ['actor_id'])
}

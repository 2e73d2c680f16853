import type { Knex } from '@/db/connection'
import type { BatchOptions, BatchTrial } from '@/core/views/intake-views'

/** How many of the people that are new have an address or number that is suppressed. */
export async function heldBack(trx: Knex, batch: number, at: Date): Promise<{ register: number; suppressed: number }> {
  const { rows } = await trx.raw(
    `select count(distinct p.id) filter (where s.reason = 'register')::int as register, count(distinct p.id) filter (where s.reason <> 'register')::int as suppressed
     from person p join suppression_touch t on t.person_id = p.id join suppression_standing s on s.id = t.suppression_id
     where p.batch_id = ? and s.since <= ? and (s.until is null or s.until > ?)`,
    [batch, at, at] as never,
  )
  return rows[0]
}

/** How many of some people were released in a round of a list before. */
export async function inRounds(trx: Knex, people: number[]): Promise<number> {
  const { rows } = await trx.raw('select count(distinct person_id)::int as n from round_member where person_id = any(?::bigint[])', [
    people,
  ])
  return rows[0].n
}

/** Marks a trial of a batch as begun, with the options it tries. */
export async function beginTrial(trx: Knex, trial: BatchTrial, id: number, options: BatchOptions) {
  return await trx('batch')
    .where({ id })
    .update({ options: JSON.stringify(options), trial: JSON.stringify(trial) })
}

/** Writes how a trial ended, unless another trial of the batch was begun meanwhile. */
export async function writeTrial(
  trx: Knex,
  { id, trialOf, trial, state, error }: { id: number; trialOf: string; trial: BatchTrial; state: string; error: string | undefined },
) {
  return await trx('batch')
    .where({ id, state: 'mapping' })
    .whereRaw(`trial->>'of' = ?`, [trialOf])
    .update({ trial: JSON.stringify({ ...trial, state, error }) })
}

/** Waits at most three seconds for a lock in this transaction, so that a trial never holds up the team. */
export async function waitShortly(trx: Knex) {
  return await trx.raw(`set local lock_timeout = '3s'`)
}

import { type HowMapped, trialOf } from '@/core/match/how-mapped'
import { type Batch, type BatchOptions, type BatchTrial, OUTCOMES } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import { type Actor, mustCoordinate } from '@/usecases/team/actor'
import { checkedRules, writeMapping } from './map-batch'
import { beginTrial } from '@/db/intake/trial-rows'
import { enqueue } from '@/db/work/enqueue'

/** Most rows that are tried: while it lasts, what they would change is locked to others. */
export const MOST_TRIED = 20_000

/** Begins to find out what would become of the rows of a file that still waits. */
export async function tryBatch(
  actor: Actor,
  id: number,
  how: HowMapped,
  options: Pick<BatchOptions, 'rules' | 'byKeysAlone'> = {},
): Promise<void> {
  mustCoordinate(actor, 'Bringing in a file')
  await db().transaction(async (trx) => {
    const batch = await writeMapping(actor, trx, id, how, 'tried')
    batch.options = { rules: checkedRules(options.rules), ...(options.byKeysAlone ? { byKeysAlone: true } : {}) }
    await beginTrial(trx, nothingYet(batch), id, batch.options)
    await enqueue(trx, 'try-batch', { batch: id })
  })
}

/** Returns a trial that has looked at no row yet. */
export const nothingYet = (batch: Batch): BatchTrial => ({
  of: trialOf(batch, batch.options),
  state: 'running',
  rows: 0,
  all: false,
  fields: {},
  register: 0,
  suppressed: 0,
  released: 0,
  counts: Object.fromEntries(OUTCOMES.map((outcome) => [outcome, 0])) as BatchTrial['counts'],
})

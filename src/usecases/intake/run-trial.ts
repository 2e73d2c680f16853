import type { Batch, BatchTrial } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import type { RowOutcome } from '@/db/intake/intake-store'
import { onlyLooking } from '@/db/locks'
import { rowsOf, Unreadable } from '@/formats'
import { now } from '@/runtime/clock'
import { knownFor, outcomesOf } from './run-batch'
import { withFileOf } from '@/db/intake/batch-file'
import { heldBack, inRounds, waitShortly, writeTrial } from '@/db/intake/trial-rows'
import { batchRow } from '@/db/intake/batch-rows'
import { MOST_TRIED, nothingYet } from './try-batch'

export const CHUNK = 500

/**
 * Brings the first rows of a file in, in one transaction that is given up at its end: the account is that of the real
 * thing, and nobody ever sees what it did.
 */
export async function runTrial(id: number): Promise<void> {
  const batch: Batch | undefined = await batchRow(db(), id)
  if (batch?.state !== 'mapping' || batch.trial?.state !== 'running') return
  const trial = nothingYet(batch)
  const keep = async (state: BatchTrial['state'], error?: string) => {
    await writeTrial(db(), { id, trialOf: trial.of, trial, state, error })
  }
  try {
    await withFileOf(id, (path) => tried(batch, path, trial, () => keep('running')))
    await keep('done')
  } catch (error) {
    await keep(
      'failed',
      error instanceof Unreadable
        ? error.message
        : 'The rows could not be tried just now. Nothing was changed; they can be brought in all the same.',
    )
    if (!(error instanceof Unreadable)) throw error
  }
}

/** Tries the rows of a batch in a transaction that is always rolled back, counting what would become of them. */
export async function tried(batch: Batch, path: string, trial: BatchTrial, heard: () => Promise<void>): Promise<void> {
  const trx = await db().transaction()
  try {
    // Whoever waits for what a trial holds goes first.
    await waitShortly(trx)
    await onlyLooking(trx)
    const at = now()
    const met = new Set<number>()
    const known = await knownFor(trx, batch)
    let block: { row_no: number; raw: string[] }[] = []
    const flush = async () => {
      if (block.length === 0) return
      for (const outcome of await outcomesOf(trx, batch, block, at, known)) {
        count(trial, outcome)
        if (outcome.person_id && (outcome.outcome === 'same' || outcome.outcome === 'updated')) met.add(outcome.person_id)
      }
      trial.rows += block.length
      block = []
      await heard()
    }
    trial.all = true
    for await (const row of rowsOf(path, batch.reading, batch.header)) {
      if (trial.rows + block.length >= MOST_TRIED) {
        trial.all = false
        break
      }
      block.push({ row_no: trial.rows + block.length + 1, raw: row.map((cell) => cell.replaceAll('\0', '')) })
      if (block.length === CHUNK) await flush()
    }
    await flush()
    if (batch.kind === 'people') Object.assign(trial, await heldBack(trx, batch.id, at), { released: await inRounds(trx, [...met]) })
  } finally {
    await trx.rollback()
  }
}

/** Counts the outcome of a row in a trial, and keeps examples of changes. */
export function count(trial: BatchTrial, { row_no, outcome, reason, changes }: RowOutcome): void {
  trial.counts[outcome]++
  if (outcome !== 'updated') return
  trial.changes ??= []
  if (changes && trial.changes.length < SHOWN_CHANGES) trial.changes.push({ row: row_no, ...changes })
  for (const field of new Set((reason ?? '').split(' · ')[0].split(', '))) trial.fields[field] = (trial.fields[field] ?? 0) + 1
}

/** So many of the rows that would change somebody are shown with what they would change. */
export const SHOWN_CHANGES = 40

import type { ComparisonView, SharedAddress } from '@/core/views/comparison-views'
import { db, type Knex } from '@/db/connection'
import {
  comparisonFile,
  comparisonRow,
  type ComparisonRow,
  comparisonRows,
  deleteComparison,
  insertComparison,
  sharedAddresses,
} from '@/db/screening/comparison-rows'
import { enqueue } from '@/db/work/enqueue'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'

/** Refuses whoever may not compare suppressions with another organisation. */
export const mustCompare = (actor: Actor) => mustCoordinate(actor, 'Comparing suppressions with another organisation')

/** The comparison of a number. Throws Refused where there is none. */
export async function comparisonFor(trx: Knex, id: number, lock = false): Promise<ComparisonRow> {
  const row = Number.isSafeInteger(id) ? await comparisonRow(trx, id, lock) : undefined
  if (!row) throw new Refused('There is no such comparison.', 'not found')
  return row
}

/** All comparisons, the latest first. */
export async function comparisonIndex(actor: Actor): Promise<ComparisonView[]> {
  mustCompare(actor)
  return comparisonRows(db())
}

/** Begins a comparison with an organisation; what is sent to it is made by a job. */
export async function beginComparison(actor: Actor, name: string): Promise<number> {
  mustCompare(actor)
  const own = name.trim()
  if (own === '' || own.length > 100) throw new Refused('Name the organisation you compare with, in at most 100 letters.')
  return db().transaction(async (trx) => {
    const id = await insertComparison(trx, { name: own, actor: actor.id, at: now() })
    await enqueue(trx, 'compare-suppressions', { comparison: id })
    return id
  })
}

/** Ends a comparison for good: its files and its secret go. */
export async function dropComparison(actor: Actor, id: number): Promise<void> {
  mustCompare(actor)
  await db().transaction(async (trx) => {
    await comparisonFor(trx, id, true)
    await deleteComparison(trx, id)
  })
}

/** One of our files of a comparison, to be sent to the other organisation. */
export async function ourFile(actor: Actor, id: number, part: 'offer' | 'answer'): Promise<{ name: string; bytes: Buffer }> {
  mustCompare(actor)
  const { name } = await comparisonFor(db(), id)
  const bytes = await comparisonFile(db(), id, part)
  if (bytes === null) throw new Refused('This file is not made yet. It takes a moment.')
  return { name: `comparison with ${name}, ${part}.json`, bytes }
}

/** The addresses and numbers of the directory that both must not contact, with whose they are. */
export async function sharedWith(actor: Actor, id: number): Promise<{ name: string; shared: SharedAddress[] }> {
  mustCompare(actor)
  const { name, done_at } = await comparisonFor(db(), id)
  if (done_at === null) throw new Refused('This comparison is not over yet.')
  return { name, shared: await sharedAddresses(db(), id) }
}

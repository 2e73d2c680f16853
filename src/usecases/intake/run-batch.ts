import type { Batch } from '@/core/views/intake-views'
import type { KnownRecords } from '@/core/match/known-records'
import { db, type Knex } from '@/db/connection'
import { openRows, type RowOutcome, settleRows } from '@/db/intake/intake-store'
import { troubleOf } from '@/db/trouble'
import { rowsOf, Unreadable } from '@/formats'
import { now } from '@/runtime/clock'
import { besideTransaction } from '@/runtime/inside-transaction'
import { intakeFields } from '@/usecases/directory/custom-fields'
import { knownRecords } from './known-records'
import { runContacts } from './run-contacts'
import { cleanPerson, type OpenRow, runPeople } from './run-people'
import { runPremises } from './run-premises'
import { finishSuppressions, runSuppressions } from './run-suppressions'
import { countText } from '@/core/text/written'
import { withFileOf } from '@/db/intake/batch-file'
import { applyChecks } from '@/db/sources/email-checks'
import { tellWork } from '@/db/team/news'
import { batchRow, beginRows, failBatch, insertBatchRows, lockBatch, updateDone, writeError } from '@/db/intake/batch-rows'

const CHUNK = 500

/**
 * Brings a batch in, a few hundred rows a transaction. What became of a row is written in the transaction that does it,
 * so a run that is stopped anywhere goes on from there and doubles nothing. `heard` is told after each transaction.
 */
export async function runBatch(id: number, heard: (done: number, total: number) => void = () => {}): Promise<void> {
  const batch: Batch | undefined = await batchRow(db(), id)
  if (!batch || (batch.state !== 'queued' && batch.state !== 'running')) return
  try {
    const total = await storeRows(batch)
    const known = await db().transaction((trx) => knownFor(trx, batch))
    for (let next: Next | null = { after: 0, ahead: null }; next !== null; ) next = await runChunk(batch, known, next, total, heard)
  } catch (error) {
    if (error instanceof Unreadable) {
      await db().transaction(async (trx) => {
        await failBatch(trx, id, error.message)
        await tellWork(trx, batch.actor_id, `${batch.file_name} could not be read to the end.`, `/intake/${id}`)
      })
      return
    }
    if (troubleOf(error) === 'full') {
      const kept = 'The disk of the database is full. What is in is kept, and the batch goes on by itself once there is room.'
      await writeError(db(), id, kept)
    }
    throw error
  }
}

/** Stores every row of the file as it came. Rows that a run before stored already are left alone. */
async function storeRows(batch: Batch): Promise<number> {
  if (batch.rows_total !== null) return batch.rows_total
  let block: { batch_id: number; row_no: number; raw: string[] }[] = []
  let total = 0
  const flush = async () => {
    await insertBatchRows(db(), block)
    block = []
  }
  await withFileOf(batch.id, async (path) => {
    for await (const row of rowsOf(path, batch.reading, batch.header)) {
      block.push({ batch_id: batch.id, row_no: ++total, raw: row.map((cell) => cell.replaceAll('\0', '')) })
      if (block.length === 1000) await flush()
    }
  })
  await flush()
  await beginRows(db(), batch.id, total)
  return total
}

/** The row after which a run goes on, and the rows that were read from there while those before them were being written. */
interface Next {
  after: number
  ahead: Promise<Ahead> | null
}
interface Ahead {
  /** How many rows were done when these came next: where others did some meanwhile, they are read anew. */
  done: number
  rows: OpenRow[]
}

/** Reads and cleans the next rows of people while the database is busy with the ones before them. */
async function readAhead(batch: Batch, after: number, done: number): Promise<Ahead> {
  const rows: OpenRow[] = await openRows(db(), batch.id, after, CHUNK)
  const customs = await intakeFields(db(), 'people')
  for (const row of rows) row.row = cleanPerson(batch, row.raw, customs)
  return { done, rows }
}

/** Brings in the next rows, and gives where to go on; null once there is none left. */
async function runChunk(
  batch: Batch,
  known: KnownRecords | undefined,
  { after, ahead }: Next,
  total: number,
  heard: (done: number, total: number) => void,
): Promise<Next | null> {
  const read = await ahead
  const at = now()
  const run = await db().transaction(async (trx) => {
    const held: Batch = await lockBatch(trx, batch.id)
    if (held.state !== 'queued' && held.state !== 'running') return null
    const rows = read && read.done === held.rows_done ? read.rows : await openRows(trx, batch.id, after, CHUNK)
    const rowsDone = held.rows_done + rows.length
    const next: Next | null =
      rows.length < CHUNK
        ? null
        : {
            after: rows[rows.length - 1].row_no,
            ahead: batch.kind === 'people' ? besideTransaction(() => readAhead(batch, rows[rows.length - 1].row_no, rowsDone)) : null,
          }
    // Where this transaction fails nobody waits for them.
    next?.ahead?.catch(() => {})
    if (rows.length > 0) await settleRows(trx, batch.id, await outcomesOf(trx, batch, rows, at, known))
    const finished = next === null
    if (finished && batch.kind === 'suppressions') await finishSuppressions(trx, batch, at)
    // An address that was checked as bad is closed, whoever brings it in again.
    if (finished && batch.kind === 'people') await applyChecks(trx, 'a.batch_id = ?', [batch.id])
    await updateDone(trx, batch.id, finished, rowsDone, at)
    if (finished)
      await tellWork(trx, batch.actor_id, `${batch.file_name} is in, all ${countText(rowsDone)} rows of it.`, `/intake/${batch.id}`)
    return next && { done: rowsDone, next }
  })
  heard(run?.done ?? total, total)
  return run?.next ?? null
}

/** Everybody whom rows of a batch may be, where they are looked for by likeness. */
export async function knownFor(trx: Knex, batch: Batch): Promise<KnownRecords | undefined> {
  return batch.kind === 'people' && !batch.options.byKeysAlone ? knownRecords(trx) : undefined
}

/** What becomes of some rows of a batch, whatever its kind, in the caller's transaction. */
export async function outcomesOf(trx: Knex, batch: Batch, rows: OpenRow[], at: Date, known?: KnownRecords): Promise<RowOutcome[]> {
  // The header once more in the middle, as where files were put together, is no row.
  const isHeader = (raw: string[]) =>
    batch.reading.headerRow > 0 && batch.header.length > 1 && batch.header.every((title, i) => (raw[i] ?? '').trim() === title)
  const headers = rows
    .filter((row) => isHeader(row.raw))
    .map((row) => ({ row_no: row.row_no, outcome: 'refused' as const, reason: 'this row is the header again' }))
  const others = rows.filter((row) => !isHeader(row.raw))
  if (batch.kind === 'people') return [...headers, ...(await runPeople(trx, batch, others, at, { known }))]
  const run = batch.kind === 'contacts' ? runContacts : batch.kind === 'premises' ? runPremises : runSuppressions
  return [...headers, ...(await run(trx, batch, others, at))]
}

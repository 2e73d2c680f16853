import type { Batch } from '@/core/views/intake-views'
import { db, type Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { now } from '@/runtime/clock'
import { undoPremises } from './undo-premises'
import { undoOrganisations } from './undo-organisations'
import { undoPerson } from './undo-person'
import {
  contactsOfBatch,
  deleteVariants,
  goWithEarlier,
  markUndone,
  type Result,
  rowsToUndo,
  withdrawOrganisations,
} from '@/db/intake/undo-rows'
import { tellWork } from '@/db/team/news'
import { reopenByContacts } from '@/db/rounds/contacts-to-come'
import { finishUndo, lockBatch } from '@/db/intake/batch-rows'

export const CHUNK = 200

/** Above every row number there is: the largest int4. */
export const LAST_ROW = 2147483647

export interface Row {
  row_no: number
  outcome: string | null
  person_id: number | null
  premises_id: number | null
}

/**
 * Undoes a batch, some rows a transaction, so that a run that is stopped anywhere goes on from there. Records it created
 * are withdrawn and fields go back, unless they were worked on since; contacts are reversed by entries; suppressions stay.
 */
export async function runUndo(id: number): Promise<void> {
  // Every row from this one on is done: those settled already are not gone through again for each transaction.
  for (let before: number | null = LAST_ROW; before !== null; ) {
    const from: number = before
    before = await db().transaction(async (trx) => {
      const batch: (Batch & { undone_by: string }) | undefined = await lockBatch(trx, id)
      if (batch?.state !== 'undoing') return null
      // A release is either over, and whom it released is kept, or begins after this.
      await passGate(trx)
      const rows: Row[] = await rowsToUndo(trx, id, from, CHUNK)
      const results = await undoRows(trx, batch, rows)
      await markUndone(trx, JSON.stringify(rows.map((row) => ({ row_no: row.row_no, ...results.get(row.row_no) }))), id)
      if (rows.length === CHUNK) return rows[CHUNK - 1].row_no
      if (batch.kind === 'people') {
        await undoOrganisations(trx, batch)
        await withdrawOrganisations(trx, batch)
      }
      await finishUndo(trx, id)
      await tellWork(trx, batch.undone_by, `${batch.file_name} is undone.`, `/intake/${id}`)
      return null
    })
  }
}

/** Undoes rows of a batch, whoever they are about, and returns what became of each. */
export async function undoRows(trx: Knex, batch: Batch & { undone_by: string }, rows: Row[]): Promise<Map<number, Result>> {
  const nothing: Result = { undone: 'nothing to undo', why: null }
  const acted = rows.filter((r) => r.outcome === 'new' || r.outcome === 'updated')
  const results = new Map<number, Result>(rows.map((r) => [r.row_no, nothing]))
  // Also of rows that told nothing else.
  await deleteVariants(
    trx,
    rows.flatMap((r) => r.person_id ?? []),
    batch.id,
  )
  if (batch.kind === 'suppressions')
    for (const row of acted) results.set(row.row_no, { undone: 'kept', why: 'suppressions stay; each can be lifted' })
  if (batch.kind === 'contacts') await undoContacts(trx, batch, acted, results)
  if (batch.kind === 'people' || batch.kind === 'premises') {
    const undo = batch.kind === 'people' ? undoPerson : undoPremises
    const perRecord = new Map<number, Result>()
    for (const row of acted) {
      const id = row.person_id ?? row.premises_id
      if (id === null) continue
      let result = perRecord.get(id)
      if (!result) perRecord.set(id, (result = await undo(trx, batch, id)))
      results.set(row.row_no, result)
    }
    if (batch.kind === 'people') for (const id of new Set(rows.flatMap((row) => row.person_id ?? []))) await goWithEarlier(trx, batch, id)
  }
  return results
}

/** Reverses the contacts that rows of a batch recorded. */
export async function undoContacts(
  trx: Knex,
  batch: Batch & { undone_by: string },
  rows: Row[],
  results: Map<number, Result>,
): Promise<void> {
  const people = rows.flatMap((r) => (r.person_id === null ? [] : [r.person_id]))
  const entries = await contactsOfBatch(trx, batch.id, people)
  await writeEntries(
    trx,
    entries.map((e: { id: number; person_id: number }) => ({
      person: e.person_id,
      kind: 'reversed' as const,
      at: now(),
      actor: batch.undone_by,
      batch: batch.id,
      reverses: e.id,
      note: `${batch.file_name} was undone`,
    })),
    now(),
  )
  // A contact to come that one of them made good is to come again, as long as its round is out.
  await reopenByContacts(
    trx,
    entries.map((e: { id: number }) => e.id),
    now(),
  )
  for (const row of rows) results.set(row.row_no, { undone: 'reversed', why: null })
}

import {
  batchesOfPeople,
  batchIndexRows,
  batchRowsPage,
  changesOfRows,
  rowCounts,
  rowsWithOutcome,
  twinRow,
  undoneCounts,
} from '@/db/intake/batch-rows'
import {
  type BatchAccount,
  type BatchIndexRow,
  type BatchRowView,
  type FieldChange,
  type Outcome,
  OUTCOMES,
  type Undone,
} from '@/core/views/intake-views'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { fieldNames } from '@/usecases/directory/custom-fields'
import { PAGE } from '@/usecases/lists/list-account'
import { batchFor } from './batch-for'
import { closedCells } from '@/usecases/screening/closed-cells'
import { writeCsv } from '@/usecases/directory/write-csv'
import { namesWithOrganisation } from '@/db/directory/person-rows'
import { premisesNames } from '@/db/directory/premises-rows'

const counted = (condition: string) =>
  `(select coalesce(jsonb_object_agg(outcome, n), '{}') from (select outcome, count(*)::int as n from batch_row r where ${condition} and outcome is not null group by outcome) c)`

/** Every batch, the newest first. */
export async function batchIndex(actor: Actor): Promise<BatchIndexRow[]> {
  const rows = await batchIndexRows(db(), counted('r.batch_id = b.id'), actor.id)
  return rows.map((b) => ({
    id: b.id,
    kind: b.kind,
    fileName: b.file_name,
    state: b.state,
    at: b.created_at.toISOString(),
    by: b.by ?? '',
    rows: b.rows_total,
    done: b.rows_done,
    counts: b.counts,
  }))
}

/** rows = new + same + updated + in doubt + refused, once all are done. */
export async function batchAccount(actor: Actor, id: number): Promise<BatchAccount> {
  const { created_at, finished_at: _, undone_by, first_rows: __, ...batch } = await batchFor(actor, id)
  const rows = await rowCounts(db(), counted('r.batch_id = ?'), id)
  const undone = batch.state === 'undone' || batch.state === 'undoing' ? await undoneCounts(id, undone_by) : null
  return {
    undone,
    twin: batch.state === 'mapping' ? await twinOf(actor, db(), id) : null,
    batch: { ...batch, at: created_at.toISOString() },
    counts: Object.fromEntries(OUTCOMES.map((o) => [o, rows[0].counts[o] ?? 0])) as Record<Outcome, number>,
  }
}

/** The last batch that the very same file, byte for byte, came in with before; null where it did not, or was undone. */
export async function twinOf(actor: Actor, trx: Knex, id: number): Promise<BatchAccount['twin']> {
  const twin = await twinRow(trx, id, actor.id)
  return twin ? { id: twin.id, name: twin.file_name, at: twin.created_at.toISOString() } : null
}

/** Rows of a batch that came out one way, in the order of the file. */
export async function batchRows(
  actor: Actor,
  id: number,
  of: { outcome: Outcome } | { undone: Undone },
  offset = 0,
): Promise<{ total: number; rows: BatchRowView[] }> {
  const { kind } = await batchFor(actor, id)
  const { total, rows } = await batchRowsPage(db(), id, of, { offset, limit: PAGE })
  const ids = rows.flatMap((r) => r.candidates ?? [])
  const changes =
    'outcome' in of && of.outcome === 'updated'
      ? await changesOf(
          id,
          rows.flatMap((r) => r.person_id ?? []),
          rows.flatMap((r) => r.premises_id ?? []),
        )
      : []
  const candidates: { id: number; name: string; organisation: string | null }[] =
    kind === 'premises' ? await premisesNames(db(), ids) : await namesWithOrganisation(db(), ids)
  return {
    total,
    rows: rows.map((r) => ({
      row: r.row_no,
      undone: r.undone ? { what: r.undone, why: r.undone_why } : null,
      raw: r.raw,
      reason: r.reason,
      person: r.person_id ? { id: r.person_id, name: r.name } : null,
      changes: changes
        .filter((c) => (r.person_id ? c.person === r.person_id : r.premises_id !== null && c.premises === r.premises_id))
        .map(({ field, before, after }) => ({ field, before, after })),
      premises: r.premises_id ? { id: r.premises_id, name: r.premises } : null,
      candidates: candidates.filter((c) => (r.candidates ?? []).includes(c.id)),
    })),
  }
}

/** What a batch changed of some people or premises, as the ledger has it. */
async function changesOf(
  batch: number,
  people: number[],
  premises: number[],
): Promise<(FieldChange & { person: number | null; premises: number | null })[]> {
  const named = await fieldNames(db())
  const rows = await changesOfRows(db(), batch, people, premises)
  return rows.map((r: FieldChange & { person: number | null; premises: number | null }) => ({ ...r, field: named(r.field) }))
}

/**
 * Refused rows as CSV in the file's own columns, to be put right and brought in again: after them the row's number, the reason, and
 * where there are any, which of its addresses must not be used, and why.
 */
export async function refusedCsv(actor: Actor, id: number, outcome: Outcome = 'refused'): Promise<{ name: string; bytes: Buffer }> {
  const batch = await batchFor(actor, id)
  const rows = await rowsWithOutcome(db(), id, outcome)
  if (rows.length === 0) throw new Refused(`No row of this file is ${outcome}.`, 'not found')
  const width = batch.header.length
  const marks =
    batch.kind === 'people'
      ? await closedCells(
          batch,
          rows.map((r) => r.raw),
        )
      : []
  const closed = marks.some((mark) => mark !== '') ? marks : null
  return {
    name: `${batch.file_name.replace(/\.[^.]*$/, '')}-${outcome.replace(' ', '-')}.csv`,
    bytes: await writeCsv(
      [...batch.header, 'Row', 'Reason', ...(closed ? ['Do not use'] : [])],
      rows.map((r, n) => [
        ...Array.from({ length: width }, (_, i) => r.raw[i] ?? ''),
        String(r.row_no),
        r.reason ?? '',
        ...(closed ? [closed[n]] : []),
      ]),
    ),
  }
}

/** Batches that a list can start with: those that brought people in. */
export async function peopleBatches(actor: Actor): Promise<{ id: number; name: string }[]> {
  return batchesOfPeople(db(), actor.id)
}

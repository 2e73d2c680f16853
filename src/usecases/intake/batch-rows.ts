import { batchRowsPage, changesOfRows } from '@/db/intake/batch-rows'
import type { BatchRowView, FieldChange, Outcome, Undone } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { fieldWords } from '@/usecases/directory/custom-fields'
import { PAGE } from '@/usecases/lists/list-account'
import { batchFor } from './batch-for'
import { namesWithOrganisation } from '@/db/directory/person-rows'
import { premisesNames } from '@/db/directory/premises-rows'

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
export async function changesOf(
  batch: number,
  people: number[],
  premises: number[],
): Promise<(FieldChange & { person: number | null; premises: number | null })[]> {
  const words = await fieldWords(db())
  const rows = await changesOfRows(db(), batch, people, premises)
  return rows.map((r: FieldChange & { person: number | null; premises: number | null }) => ({
    ...r,
    ...words.told(r),
  }))
}

import { batchIndexRows, twinRow } from '@/db/intake/batch-rows'
import type { BatchAccount, BatchIndexRow } from '@/core/views/intake-views'
import { db, type Knex } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'

/** Returns the SQL that counts rows of a batch by outcome. */
export const counted = (condition: string) =>
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

/** The last batch that the very same file, byte for byte, came in with before; null where it did not, or was undone. */
export async function twinOf(actor: Actor, trx: Knex, id: number): Promise<BatchAccount['twin']> {
  const twin = await twinRow(trx, id, actor.id)
  return twin ? { id: twin.id, name: twin.file_name, at: twin.created_at.toISOString() } : null
}

import { rowCounts, undoneCounts } from '@/db/intake/batch-rows'
import { type BatchAccount, type Outcome, OUTCOMES } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { batchFor } from './batch-for'
import { counted, twinOf } from './batches'

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

import type { BatchAccount } from '@/core/views/intake-views'
import { db } from '@/db/connection'

/** Whether somebody may see a batch, or an enquiry, that stands in a query under some name: what is about a list belongs to it, all others to the team. */
export const batchSeenBy = (batch: string) =>
  `(${batch}.list_id is null or exists (select 1 from list bl where bl.id = ${batch}.list_id and role_on(bl, ?) is not null))`

export async function undoneCounts(id: number, by: string | null): Promise<BatchAccount['undone']> {
  const counts = await db()('batch_row')
    .where({ batch_id: id })
    .whereNotNull('undone')
    .groupBy('undone')
    .select('undone', db().raw('count(*)::int as n'))
  const who = await db()('user')
    .where({ id: by ?? '' })
    .first('name')
  return { counts: Object.fromEntries(counts.map((c) => [c.undone, c.n])), by: who?.name ?? '' }
}

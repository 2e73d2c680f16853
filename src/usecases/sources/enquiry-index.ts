import { enquiryIndexRows } from '@/db/sources/enquiry-rows'
import type { EnquiryIndexRow } from '@/core/sources/enquiry'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { countsOf } from './enquiries'

/** Enquiries, the newest first; those about somebody's private list are for them alone. */
export async function enquiryIndex(actor: Actor): Promise<EnquiryIndexRow[]> {
  const rows = await enquiryIndexRows(db(), countsOf('e.id'), actor.id)
  return rows.map((e) => ({
    id: e.id,
    kind: e.kind,
    source: e.source,
    name: e.name,
    state: e.state,
    counts: e.counts,
    cost: e.cost,
    currency: e.prices?.currency ?? 'GBP',
    at: e.created_at.toISOString(),
    by: e.by ?? '',
  }))
}

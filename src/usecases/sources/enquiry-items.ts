import { itemsPage } from '@/db/sources/enquiry-rows'
import type { ItemState, ItemView } from '@/core/sources/enquiry'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { PAGE } from '@/usecases/lists/list-account'
import { enquiryFor } from './enquiries'

/** Things an enquiry asked about that stand one way, in their order. */
export async function enquiryItems(actor: Actor, id: number, state: ItemState, offset = 0): Promise<{ total: number; items: ItemView[] }> {
  await enquiryFor(actor, id)
  const { total, rows } = await itemsPage(db(), id, state, { offset, limit: PAGE })
  return {
    total,
    items: rows.map((r) => ({
      n: r.n,
      title: r.data.title,
      detail: [
        r.data.detail,
        ...Object.entries((r.answer as Record<string, string>) ?? {}).flatMap(([title, value]) =>
          value && value !== r.data.title ? `${title.toLowerCase()}: ${value}` : [],
        ),
      ]
        .filter(Boolean)
        .join(' · '),
      state: r.state,
      why: r.why,
      has: r.data.has ?? [],
      person: r.data.person ?? null,
    })),
  }
}

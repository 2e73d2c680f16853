import { tooMany } from '@/core/sources/parts'
import type { SearchedName } from '@/core/sources/source'
import { db } from '@/db/connection'
import { searchedSource } from '@/sources/http-source'
import { enquiryOf } from './enquiries'
import { countText } from '@/core/text/written'
import { countItems, type Enquiry, markReady, updateParts, wantChannels, withKnown, writeItems } from '@/db/sources/enquiry-rows'
import { tellWork } from '@/db/team/news'

/**
 * Goes through a search page by page. Where it got to is written with what came, so that a run that broke off goes on there
 * and doubles nothing. Throws SourceTrouble where the source does not answer.
 */
export async function runFind(id: number): Promise<void> {
  for (;;) {
    const e = await enquiryOf(db(), id)
    if (e.state !== 'asking') return
    const at = e.parts.findIndex((part) => !part.through)
    if (at < 0) return finish(e)
    const part = e.parts[at]
    const source = searchedSource(e.source as SearchedName)
    const prices = e.prices ?? (await source.prices())
    const page = await source.find(part.search, part.next)
    await db().transaction(async (trx) => {
      const held = await enquiryOf(trx, id, true)
      if (held.state !== 'asking' || JSON.stringify(held.parts[at]) !== JSON.stringify(part)) return
      await writeItems(trx, id, await withKnown(trx, e.source, page.items))
      const parts = held.parts.map((other, i) =>
        i === at
          ? {
              ...part,
              next: page.next,
              through: page.next === null,
              total: page.total,
              came: part.came + page.items.length,
              most: page.most,
            }
          : other,
      )
      const whole =
        held.asked.kind === 'find' && held.asked.split === null
          ? {
              narrowing: tooMany(page)
                ? JSON.stringify({ total: page.total, most: page.most, subKinds: page.subKinds, districts: page.districts })
                : null,
            }
          : {}
      await updateParts(trx, id, parts, prices, whole)
    })
  }
}

/** Marks a search as ready and tells whoever asked. */
export async function finish(e: Enquiry): Promise<void> {
  await db().transaction(async (trx) => {
    await markReady(trx, e.id)
    await wantChannels(trx, e.id, e.asked.kind === 'find' ? e.asked.wanted : [])
    const [{ n }] = await countItems(trx, e.id)
    await tellWork(trx, e.actor_id, `${e.name}: ${countText(n)} found.`, `/intake/enquiries/${e.id}`)
  })
}

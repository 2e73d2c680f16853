import { partsOf, type Split, SPLITS } from '@/core/sources/parts'
import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { enqueueEnquiry, enquiryFor } from './enquiries'
import { type Enquiry, updateSplit } from '@/db/sources/enquiry-rows'
import { newPart } from './find-in-source'

/** Splits a search that found more than its source gives out, and goes on part by part; what came is kept, and nothing comes twice. */
export async function splitFind(actor: Actor, id: number, by: Split): Promise<void> {
  mustCoordinate(actor, 'Asking a source')
  if (!SPLITS.includes(by)) throw new Refused('A search is split by sub-kind or by district.')
  await db().transaction(async (trx) => {
    const e = await enquiryFor(actor, id, 'see', trx, true)
    if (e.asked.kind !== 'find' || e.state === 'asking' || e.state === 'running' || !e.narrowing)
      throw new Refused('This search cannot be split now.')
    const split = e.asked.split
    // Split once already: each part that is still too large is split the other way.
    const parts =
      split === null
        ? partsOf(e.asked.search, by, e.narrowing).map(newPart)
        : e.parts.flatMap((part) =>
            part.total !== null && part.total > part.most
              ? partsOf(part.search, by, e.narrowing as NonNullable<Enquiry['narrowing']>).map(newPart)
              : [part],
          )
    if (split === by) throw new Refused(`It is split by ${by} already.`)
    await updateSplit(trx, id, e.asked, by, parts)
    await enqueueEnquiry(trx, id)
  })
}

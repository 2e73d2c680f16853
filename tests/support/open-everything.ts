import { doublesPage } from '@/usecases/directory/possible-duplicates'
import { openPerson } from '@/usecases/directory/open-person'
import { batchAccount } from '@/usecases/intake/batch-account'
import { batchIndex } from '@/usecases/intake/batches'
import { mappingProfiles } from '@/usecases/intake/mapping-profiles'
import { previewBatch } from '@/usecases/intake/preview-batch'
import { listAreas } from '@/usecases/lists/areas'
import { knownWords } from '@/usecases/lists/known-words'
import { commentsOn } from '@/usecases/lists/line-comments'
import { listIndex } from '@/usecases/lists/list-index'
import { tableOf } from '@/usecases/lists/list-tables'
import { listFor, openList } from '@/usecases/lists/open-list'
import { proposalsFor } from '@/usecases/lists/proposals'
import { roleWordings } from '@/usecases/lists/role-wordings'
import { sharingOf } from '@/usecases/lists/share-list'
import { openPremisesRound } from '@/usecases/rounds/open-premises-round'
import { openRound } from '@/usecases/rounds/open-round'
import { roundIndex } from '@/usecases/rounds/round-index'
import { suppressionIndex } from '@/usecases/screening/suppression-index'
import { enquiryIndex } from '@/usecases/sources/enquiry-index'
import { openEnquiry } from '@/usecases/sources/open-enquiry'
import type { Actor } from '@/usecases/team/actor'
import { teamPage } from '@/usecases/team/team-page'

/**
 * Opens every list, round, batch and enquiry, and the pages that gather things; the people as the first of `everybody`. Each thing is
 * opened once, and by each colleague at least one of every right they have. Returns how much was opened; throws what does not open.
 */
export async function openEverything(everybody: readonly Actor[], people: readonly number[]): Promise<number> {
  const opened = new Set<string>()
  const isNew = (what: string, who: Actor, right: string) => {
    const left = [what, `${who.id} ${right}`].filter((key) => !opened.has(key))
    for (const key of left) opened.add(key)
    return left.length > 0
  }
  for (const who of everybody) {
    for (const { id, role } of await listIndex(who)) {
      if (!isNew(`list ${id}`, who, `list ${role}`)) continue
      await tableOf(who, await listFor(who, id))
      await Promise.all([openList(who, id), proposalsFor(who, id), commentsOn(who, id), sharingOf(who, id)])
    }
    for (const { id, subject, state } of await roundIndex(who))
      if (isNew(`round ${id}`, who, `round ${subject} ${state}`)) await (subject === 'person' ? openRound : openPremisesRound)(who, id)
    for (const { id, state } of await batchIndex(who))
      if (isNew(`batch ${id}`, who, `batch ${state}`)) await (state === 'mapping' ? previewBatch : batchAccount)(who, id)
    for (const { id } of await enquiryIndex(who)) if (isNew(`enquiry ${id}`, who, 'enquiry')) await openEnquiry(who, id)
    await Promise.all([
      suppressionIndex(who),
      doublesPage(who),
      teamPage(who),
      knownWords(who),
      roleWordings(who),
      mappingProfiles(who),
      listAreas(who),
    ])
  }
  for (const id of people) await openPerson(everybody[0], id)
  return opened.size
}

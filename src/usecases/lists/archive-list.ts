import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { archiveRow } from '@/db/lists/list-rows'
import { openRoundNumber } from '@/db/rounds/round-rows'
import { ownList } from './own-list'

/** Puts a list away, or takes it out again: it stands apart in the index, and all that names it goes on. */
export async function archiveList(actor: Actor, id: number, away: boolean): Promise<void> {
  await db().transaction(async (trx) => {
    const list = await ownList(actor, id, away ? 'archive it' : 'take it out of the archive', trx, true)
    const open = await openRoundNumber(trx, id)
    if (away && open) throw new Refused(`Round ${open.number} of this list is not closed. Close it before the list is archived.`)
    await archiveRow(trx, list.id, away)
  })
}

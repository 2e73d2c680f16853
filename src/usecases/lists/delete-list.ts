import { db } from '@/db/connection'
import { holdNames } from '@/db/locks'
import { type Actor, Refused } from '@/usecases/team/actor'
import { firstNameSeen, markDeleted, namedBy } from '@/db/lists/list-rows'
import { firstReleased, roundOut } from '@/db/rounds/round-rows'
import { ownList } from './own-list'

/**
 * Takes a list away. Its editions and rounds stay in the database; only its owner may, and another's never. What it is decided
 * on is read under the lock of the list, which a release holds to its end, and of which list names which.
 */
export async function deleteList(actor: Actor, id: number): Promise<void> {
  await db().transaction(async (trx) => {
    const list = await ownList(actor, id, 'delete it', trx, true)
    await holdNames(trx)
    const open = await roundOut(trx, id)
    if (open) throw new Refused(`Round ${open.number} of this list is out. Close it before the list is deleted.`)
    const by = await namedBy(id, trx)
    if (by.length > 0) {
      const seen = await firstNameSeen(
        trx,
        by.map((l) => l.id),
        actor.id,
      )
      throw new Refused(`${seen ? `“${seen.name}”` : 'A private list'} names this list. Take that line away before this one is deleted.`)
    }
    const used = await firstReleased(trx, id)
    if (used)
      throw new Refused(
        `Round ${used.number} went out to this list, so it stays: archive it instead. What was released can be had again from it.`,
      )
    await markDeleted(trx, list.id)
  })
}

import { db, type Knex } from '@/db/connection'
import { holdNames } from '@/db/locks'
import { type Actor, Refused } from '@/usecases/team/actor'
import { checkedName } from './create-list'
import { listFor } from './open-list'
import {
  archiveRow,
  firstNameSeen,
  type ListRow,
  markDeleted,
  namedBy,
  unmarkDeleted,
  updateLabels,
  updateName,
} from '@/db/lists/list-rows'
import { deletePin, insertPin } from '@/db/lists/list-marks'
import { dropFromHands } from '@/db/lists/in-hand'
import { firstReleased, openRoundNumber, roundOut } from '@/db/rounds/round-rows'

export async function renameList(actor: Actor, id: number, name: string): Promise<void> {
  const list = await ownList(actor, id, 'rename it')
  await updateName(db(), checkedName(name), list.id)
}

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
    await dropFromHands(trx, list.id)
  })
}

/** Puts a list away, or takes it out again: it stands apart in the index, and all that names it goes on. */
export async function archiveList(actor: Actor, id: number, away: boolean): Promise<void> {
  await db().transaction(async (trx) => {
    const list = await ownList(actor, id, away ? 'archive it' : 'take it out of the archive', trx, true)
    const open = await openRoundNumber(trx, id)
    if (away && open) throw new Refused(`Round ${open.number} of this list is not closed. Close it before the list is archived.`)
    await archiveRow(trx, list.id, away)
    if (away) await dropFromHands(trx, list.id)
  })
}

/** Keeps a list at the top of this person's own index, or no longer. */
export async function pinList(actor: Actor, id: number, top: boolean): Promise<void> {
  await listFor(actor, id)
  if (top) await insertPin(db(), id, actor.id)
  else await deletePin(db(), id, actor.id)
}

/** Files a list under some labels, which everybody who sees it sees. */
export async function labelList(actor: Actor, id: number, labels: readonly string[]): Promise<void> {
  const list = await ownList(actor, id, 'label it')
  const clean = [
    ...new Map(
      labels
        .map((label) => String(label).trim().replace(/\s+/g, ' '))
        .filter(Boolean)
        .map((label) => [label.toLowerCase(), label]),
    ).values(),
  ]
  if (clean.length > 12 || clean.some((label) => label.length > 40))
    throw new Refused('A list has at most twelve labels of at most 40 letters.')
  await updateLabels(db(), list.id, clean)
}

/** Brings back a list its owner deleted. Returns its name. */
export async function restoreList(actor: Actor, id: number): Promise<string> {
  const [list] = await unmarkDeleted(db(), id, actor.id)
  if (!list) throw new Refused('There is no deleted list of yours to bring back.', 'not found')
  return list.name
}

export async function ownList(actor: Actor, id: number, what: string, trx: Knex = db(), lock = false): Promise<ListRow> {
  const list = await listFor(actor, id, 'see', trx, lock)
  if (list.owner_id !== actor.id) throw new Refused(`This list is somebody else’s: only its owner can ${what}.`, 'not allowed')
  return list
}

import { db, type Knex } from '@/db/connection'
import { holdNames } from '@/db/locks'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import { checkedName } from './create-list'
import { listFor } from './open-list'
import { type ListRow, namedBy } from '@/db/lists/list-rows'

export async function renameList(actor: Actor, id: number, name: string): Promise<void> {
  const list = await ownList(actor, id, 'rename it')
  await db()('list')
    .where({ id: list.id })
    .update({ name: checkedName(name) })
}

/**
 * Takes a list away. Its editions and rounds stay in the database; only its owner may, and another's never. What it is decided
 * on is read under the lock of the list, which a release holds to its end, and of which list names which.
 */
export async function deleteList(actor: Actor, id: number): Promise<void> {
  await db().transaction(async (trx) => {
    const list = await ownList(actor, id, 'delete it', trx, true)
    await holdNames(trx)
    const open = await trx('round').where({ list_id: id }).whereNotNull('released_at').whereNull('closed_at').first('number')
    if (open) throw new Refused(`Round ${open.number} of this list is out. Close it before the list is deleted.`)
    const by = await namedBy(id, trx)
    if (by.length > 0) {
      const seen = await trx('list')
        .whereIn(
          'id',
          by.map((l) => l.id),
        )
        .whereRaw('role_on(list, ?) is not null', [actor.id])
        .orderBy('name')
        .first('name')
      throw new Refused(`${seen ? `“${seen.name}”` : 'A private list'} names this list. Take that line away before this one is deleted.`)
    }
    const used = await trx('round').where({ list_id: id }).whereNotNull('released_at').first('number')
    if (used)
      throw new Refused(
        `Round ${used.number} went out to this list, so it stays: archive it instead. What was released can be had again from it.`,
      )
    await trx('list').where({ id: list.id }).update({ deleted_at: now() })
    await trx('list_in_hand').where({ list_id: list.id }).delete()
  })
}

/** Puts a list away, or takes it out again: it stands apart in the index, and all that names it goes on. */
export async function archiveList(actor: Actor, id: number, away: boolean): Promise<void> {
  await db().transaction(async (trx) => {
    const list = await ownList(actor, id, away ? 'archive it' : 'take it out of the archive', trx, true)
    const open = await trx('round').where({ list_id: id }).whereNull('closed_at').first('number')
    if (away && open) throw new Refused(`Round ${open.number} of this list is not closed. Close it before the list is archived.`)
    await trx('list')
      .where({ id: list.id })
      .update({ archived_at: away ? now() : null })
    if (away) await trx('list_in_hand').where({ list_id: list.id }).delete()
  })
}

/** Keeps a list at the top of this person's own index, or no longer. */
export async function pinList(actor: Actor, id: number, top: boolean): Promise<void> {
  await listFor(actor, id)
  if (top) await db()('list_pin').insert({ list_id: id, user_id: actor.id }).onConflict(['list_id', 'user_id']).ignore()
  else await db()('list_pin').where({ list_id: id, user_id: actor.id }).delete()
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
  await db()('list').where({ id: list.id }).update({ labels: clean })
}

/** Brings back a list its owner deleted. Returns its name. */
export async function restoreList(actor: Actor, id: number): Promise<string> {
  const [list] = await db()('list').where({ id, owner_id: actor.id }).whereNotNull('deleted_at').update({ deleted_at: null }, 'name')
  if (!list) throw new Refused('There is no deleted list of yours to bring back.', 'not found')
  return list.name
}

export async function ownList(actor: Actor, id: number, what: string, trx: Knex = db(), lock = false): Promise<ListRow> {
  const list = await listFor(actor, id, 'see', trx, lock)
  if (list.owner_id !== actor.id) throw new Refused(`This list is somebody else’s: only its owner can ${what}.`, 'not allowed')
  return list
}

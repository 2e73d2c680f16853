import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import type { Actor } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { tellHere } from '@/db/team/news'
import { deleteReader, readerRow, readersSince, writeReader } from '@/db/lists/list-readers'

/** Whoever was not heard of for this long is taken to have gone, in milliseconds; pages tell it far more often. */
const GONE = 60_000

export interface Reader {
  name: string
  /** They have something on this list that is not saved. */
  working: boolean
}

/**
 * Marks that this person has a list open, and gives who else has. Those who have it open are told when somebody comes,
 * begins to work on it or goes.
 */
export async function lookAt(actor: Actor, id: number, working: boolean): Promise<Reader[]> {
  await listFor(actor, id)
  const at = now()
  await db().transaction(async (trx) => {
    const before = await readerRow(trx, id, actor.id)
    await writeReader(trx, id, actor.id, at, working)
    if (!before || before.working !== working || at.getTime() - before.at.getTime() > GONE) await tellHere(trx, id)
  })
  return readersSince(db(), id, actor.id, at, GONE)
}

/** Marks that this person closed a list. */
export async function lookAway(actor: Actor, id: number): Promise<void> {
  const gone = await deleteReader(db(), id, actor.id)
  if (gone > 0) await tellHere(db(), id)
}

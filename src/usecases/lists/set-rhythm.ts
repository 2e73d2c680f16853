import { localDate } from '@/core/calendar/local-day'
import { validRhythm } from '@/core/calendar/rhythm'
import { db } from '@/db/connection'
import { updateOnlyFollow, updateRhythm } from '@/db/lists/list-rows'
import { openRoundNumber } from '@/db/rounds/round-rows'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'

/** Says when a list is due again, or that it has no rhythm. Throws Refused with what is wrong. */
export async function setRhythm(actor: Actor, id: number, raw: unknown): Promise<void> {
  let rhythm = null
  try {
    rhythm = raw === null ? null : validRhythm(raw)
  } catch (error) {
    throw new Refused((error as Error).message)
  }
  await db().transaction(async (trx) => {
    const list = await listFor(actor, id, 'edit', trx, true)
    await updateRhythm(trx, list.id, rhythm, rhythm && localDate(now().getTime(), list.zone))
  })
}

/** Makes a list one that is only for following, and never goes out in a round, or makes it a list like others. */
export async function setOnlyFollow(actor: Actor, id: number, only: boolean): Promise<void> {
  await db().transaction(async (trx) => {
    const list = await listFor(actor, id, 'edit', trx, true)
    if (only && (await openRoundNumber(trx, list.id))) throw new Refused('This list has an open round. Close it first.')
    await updateOnlyFollow(trx, list.id, only)
  })
}

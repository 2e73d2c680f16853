import { db } from '@/db/connection'
import { mailRunOf, moveMailRun } from '@/db/rounds/mail-rows'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from './rounds'

/** Stops the emails of a round for now. Those that are being handed over leave; no others do. */
export async function pauseMail(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Pausing emails')
  await db().transaction(async (trx) => {
    await roundFor(actor, id, trx, true)
    const run = await mailRunOf(trx, id)
    if (!run || (await moveMailRun(trx, run.id, ['running'], 'paused', `Paused by ${actor.name}.`)) === 0)
      throw new Refused('No emails of this round are leaving, so there is nothing to pause.')
  })
}

import { db } from '@/db/connection'
import { mailRunOf, moveMailRun } from '@/db/rounds/mail-rows'
import { enqueue } from '@/db/work/enqueue'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from './rounds'

/** Goes on with the emails of a round that were paused or broke off, from where they got to. */
export async function resumeMail(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Sending emails')
  await db().transaction(async (trx) => {
    const { round } = await roundFor(actor, id, trx, true)
    if (round.closed_at) throw new Refused('The round is closed, so nobody is contacted in it any more. Nothing was sent.')
    const run = await mailRunOf(trx, id)
    if (!run || (await moveMailRun(trx, run.id, ['paused', 'failed'], 'running', null)) === 0)
      throw new Refused('The emails of this round are not paused.')
    await enqueue(trx, 'send-mail', { run: run.id })
  })
}

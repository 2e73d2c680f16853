import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { endRound } from './end-round'
import { anyRoundFor } from './rounds'

/** Closes a round that is out. Contacts it did not make get an entry each that says so. */
export async function closeRound(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Closing a round')
  await db().transaction(async (trx) => {
    const { round } = await anyRoundFor(actor, id, trx, true)
    if (!round.released_at) throw new Refused('The round is not released yet, so there is nothing to close.')
    if (round.closed_at) throw new Refused('The round is closed already.')
    await endRound(trx, actor, round)
  })
}

import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { updateClosed } from '@/db/rounds/round-rows'
import { now } from '@/runtime/clock'
import { endRound } from './end-round'
import { anyRoundFor } from './rounds'

/**
 * Closes a round that is out, with its supplements. Contacts it did not make get an entry each that says so. A supplement that is still being
 * built is dropped by closing it; a released one closes with its round.
 */
export async function closeRound(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Closing a round')
  await db().transaction(async (trx) => {
    const { round } = await anyRoundFor(actor, id, trx, true)
    if (round.supplement > 0 && !round.released_at && !round.closed_at) {
      await updateClosed(trx, id, now(), actor.id)
      return
    }
    if (round.supplement > 0) throw new Refused(`A supplement is closed with its round. Close round ${round.number}.`)
    if (!round.released_at) throw new Refused('The round is not released yet, so there is nothing to close.')
    if (round.closed_at) throw new Refused('The round is closed already.')
    await endRound(trx, actor, round)
  })
}

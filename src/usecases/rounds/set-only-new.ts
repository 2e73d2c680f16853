import { db } from '@/db/connection'
import { updateOnlyNew } from '@/db/rounds/round-rows'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from './rounds'

/** Says whether a round that is being built is for those alone whom no earlier round of its list released. */
export async function setOnlyNew(actor: Actor, id: number, only: boolean): Promise<void> {
  mustCoordinate(actor, 'Changing who is in a round')
  await db().transaction(async (trx) => {
    const { round } = await roundFor(actor, id, trx, true)
    if (round.released_at) throw new Refused('The round is released: who is in it is frozen.')
    if (round.supplement > 0) throw new Refused('A supplement is for people who are not in its round yet, and for nobody else.')
    if (only && round.number === 1) throw new Refused('This is the first round of its list, so everybody in it is new.')
    await updateOnlyNew(trx, id, only)
  })
}

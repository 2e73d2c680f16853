import { db, type Knex } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { latestEdition } from '@/db/lists/list-rows'
import { baseOf, insertSupplement, type RoundRow, supplementsOf } from '@/db/rounds/round-rows'
import { roundFor } from './rounds'

/**
 * Begins a supplement to a round that is out, for people who newly fit its list: nobody who is in the round already, under the rules the
 * round was released with. One that is still being built is gone on with.
 */
export async function startSupplement(actor: Actor, id: number): Promise<number> {
  mustCoordinate(actor, 'Adding a supplement')
  return db().transaction(async (trx) => {
    const { round, list } = await roundFor(actor, id, trx, true)
    const base = await baseOf(trx, round)
    if (!base.released_at) throw new Refused('The round is not released yet. Whoever fits its list by then is in it.')
    if (base.closed_at) throw new Refused('The round is closed. Whoever fits the list now comes with its next round.')
    const building = (await supplementsOf(trx, round)).find(({ released_at }) => released_at === null)
    if (building) return building.id
    const { id: edition } = await latestEdition(list.id, trx)
    return insertSupplement(trx, base, edition, actor.id)
  })
}

/** Throws Refused where a supplement can go out no more, since it or its round was closed. */
export async function mustBeOpen(trx: Knex, round: RoundRow): Promise<void> {
  if (round.supplement === 0) return
  if (round.closed_at || (await baseOf(trx, round)).closed_at)
    throw new Refused(`Round ${round.number} was closed, so its supplement can no longer be released.`)
}

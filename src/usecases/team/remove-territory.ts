import { db } from '@/db/connection'
import { markRemoved, territoryLocked } from '@/db/team/territory-rows'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from './actor'

/** Removes a territory: contacts are no longer shared out by it. Lists that name it keep the postcodes it had. */
export async function removeTerritory(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Removing territories')
  await db().transaction(async (trx) => {
    const known = await territoryLocked(trx, id)
    if (!known || known.removed_at) throw new Refused('There is no such territory. Somebody may have removed it.', 'not found')
    await markRemoved(trx, id, now())
  })
}

import { db } from '@/db/connection'
import { holdTerritories } from '@/db/locks'
import { markRemoved, territoryLocked, territoryNamed } from '@/db/team/territory-rows'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from './actor'

/**
 * Removes a territory: contacts are no longer shared out by it. Lists that name it keep the postcodes it had. With `back` it is put back as it
 * was, unless another has its name by now.
 */
export async function removeTerritory(actor: Actor, id: number, back = false): Promise<void> {
  mustCoordinate(actor, 'Removing territories')
  await db().transaction(async (trx) => {
    await holdTerritories(trx)
    const known = await territoryLocked(trx, id)
    if (!known || (known.removed_at !== null) !== back)
      throw new Refused(
        back ? 'The territory is there already, or never was.' : 'There is no such territory. Somebody may have removed it.',
        'not found',
      )
    if (back && (await territoryNamed(trx, known.name, id)))
      throw new Refused(`There is another territory “${known.name}” by now, so this one stays removed.`)
    await markRemoved(trx, id, back ? null : now())
  })
}

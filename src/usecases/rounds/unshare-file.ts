import { CHANNEL_NAME, type Channel } from '@/core/records/channels'
import { db } from '@/db/connection'
import { deleteShares } from '@/db/rounds/share-rows'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from './rounds'

/** Takes back how the contacts of a channel are shared out. */
export async function unshareFile(actor: Actor, id: number, channel: Channel): Promise<void> {
  mustCoordinate(actor, 'Sharing out contacts')
  await db().transaction(async (trx) => {
    await roundFor(actor, id, trx, true)
    if ((await deleteShares(trx, id, channel)) === 0)
      throw new Refused(`The ${CHANNEL_NAME[channel]} contacts of this round are not shared out.`)
  })
}

import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { enquiryFor } from './enquiries'
import { CHANNELS, updateAsked, wantChannels, type Wanted } from '@/db/sources/enquiry-rows'

/** Leaves out, of what is not known, whatever has none of the wanted channels; takes back in what has. None wanted leaves nothing out. */
export async function chooseChannels(actor: Actor, id: number, wanted: Wanted[]): Promise<void> {
  mustCoordinate(actor, 'Asking a source')
  const chosen = CHANNELS.filter((channel) => wanted.includes(channel))
  await db().transaction(async (trx) => {
    const e = await enquiryFor(actor, id, 'see', trx, true)
    if (e.asked.kind !== 'find' || e.state === 'running') throw new Refused('This cannot be changed while the enquiry is running.')
    await updateAsked(trx, id, e.asked, chosen)
    await wantChannels(trx, id, chosen)
  })
}

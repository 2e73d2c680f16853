import { stopRow } from '@/db/sources/enquiry-rows'
import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { enquiryFor } from './enquiries'

/** Stops an enquiry; what came is kept, and it can go on. */
export async function stopEnquiry(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Asking a source')
  await enquiryFor(actor, id, 'use')
  const stopped = await stopRow(db(), id)
  if (stopped === 0) throw new Refused('This enquiry is not running.')
}

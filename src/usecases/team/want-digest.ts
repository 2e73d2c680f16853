import { db } from '@/db/connection'
import { writeDigest } from '@/db/team/digest-rows'
import type { Actor } from './actor'

/** Says whether somebody wants what is their move by email each morning. */
export async function wantDigest(actor: Actor, wanted: boolean): Promise<void> {
  await writeDigest(db(), actor.id, wanted)
}

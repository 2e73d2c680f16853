import { carriedOver } from '@/core/match/shaping'
import type { ProfileApplied } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { batchFor } from './batch-for'
import { profileRow } from '@/db/intake/mapping-rows'

/** How a saved mapping fits the columns of a batch, found by their titles. Nothing is written. */
export async function applyProfile(actor: Actor, batchId: number, id: number): Promise<ProfileApplied> {
  const batch = await batchFor(actor, batchId)
  const profile = await profileRow(db(), id)
  if (!profile) throw new Refused('There is no such mapping any more.', 'not found')
  return { kind: profile.kind, ...carriedOver(profile, batch.header) }
}

import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { decide } from './settle-held'
import { openProposal } from './proposals'

/** Leaves a proposal, with why, which whoever made it is told. */
export async function leaveProposal(actor: Actor, proposal: number, reason: string): Promise<void> {
  const row = await openProposal(actor, proposal)
  await decide(db(), row, { decision: 'not taken', decided_by: actor.id, reason: String(reason).trim().slice(0, 500) })
}

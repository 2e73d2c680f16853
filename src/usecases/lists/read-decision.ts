import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { markTold } from '@/db/lists/proposals'

/** Marks that whoever proposed something has read what became of it. */
export async function readDecision(actor: Actor, proposal: number): Promise<void> {
  await markTold(db(), proposal, actor.id)
}

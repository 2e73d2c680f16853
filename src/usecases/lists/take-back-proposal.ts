import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { decide, proposalOf } from './settle-held'
import { putDraftUnlessThere } from '@/db/lists/drafts'

/** Takes back what one proposed oneself; its lines come back as one's draft where none stands. */
export async function takeBackProposal(actor: Actor, proposal: number): Promise<void> {
  const row = await proposalOf(proposal)
  await listFor(actor, row.list_id)
  if (row.proposed_by !== actor.id) throw new Refused('Only the person who proposed a change can take it back.', 'not allowed')
  if (row.decision !== null) throw new Refused('This proposal is settled already.')
  await db().transaction(async (trx) => {
    await decide(trx, row, { decision: 'taken back', decided_by: actor.id })
    await putDraftUnlessThere(trx, row.list_id, actor.id, row.based_on, row.lines)
  })
}

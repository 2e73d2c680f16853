import { withProposal } from '@/core/lists/proposals'
import { allows } from '@/core/records/list-roles'
import type { ProposalEffect } from '@/core/views/list-views'
import { type Actor, Refused } from '@/usecases/team/actor'
import { heldAgainst, type Side } from './compare-editions'
import { linesOfEdition, listFor } from './open-list'
import { checkSeen } from './named-lists'
import { proposalOf } from './settle-held'
import { latestEdition } from '@/db/lists/list-rows'

/** What a proposal would do today: who is on now, who would leave and join, who would be on with it; and a page of those of one side. */
export async function proposalEffect(
  actor: Actor,
  proposal: number,
  tab: Side = 'left',
  page = { offset: 0, limit: 0 },
  signal?: AbortSignal,
): Promise<ProposalEffect> {
  const row = await proposalOf(proposal)
  const list = await listFor(actor, row.list_id)
  if (!allows(list.role, 'edit') && row.proposed_by !== actor.id) throw new Refused('There is no such proposal.', 'not found')
  const latest = await latestEdition(list.id)
  const lines = withProposal(await linesOfEdition(list.id, row.based_on), row.lines, latest.lines)
  await checkSeen(actor, lines)
  const sides = { before: { lines: latest.lines, name: 'the list as it stands' }, after: { lines, name: 'what is proposed' } }
  return heldAgainst(list, sides, tab, page, `${actor.id}:proposal-${row.id}-${page.limit > 0}`, signal)
}

import type { Line } from '@/core/lists/line'
import { holdsProposal } from '@/core/lists/proposals'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { lockOpenProposals, type ProposalRow, proposalRow, writeDecision } from '@/db/lists/proposals'
import { tellTalk, tellWork } from '@/db/team/news'
import { nameOf } from '@/db/team/colleagues'
import { listName } from '@/db/lists/list-rows'
import { editionLines } from '@/db/lists/editions'

/**
 * Marks those proposals as taken whose changes an edition that was just saved holds, and the one it was made from. Throws
 * Refused where that was settled meanwhile.
 */
export async function settleHeld(
  trx: Knex,
  actor: Actor,
  list: number,
  edition: number,
  lines: readonly Line[],
  taking?: number,
): Promise<void> {
  const open: ProposalRow[] = await lockOpenProposals(trx, list)
  if (taking !== undefined && !open.some((row) => row.id === taking))
    throw new Refused('A colleague settled this proposal just now. Nothing was changed.')
  for (const row of open) {
    const { lines: basis } = await editionLines(trx, list, row.based_on)
    if (row.id === taking || holdsProposal(basis, row.lines, lines))
      await decide(trx, row, { decision: 'taken', decided_by: actor.id, edition })
  }
}

/** Writes the decision on a proposal. Refuses where a colleague was faster. */
export async function decide(
  trx: Knex,
  row: ProposalRow,
  to: { decision: ProposalRow['decision']; decided_by: string; reason?: string; edition?: number },
): Promise<void> {
  const own = to.decided_by === row.proposed_by
  const changed = await writeDecision(trx, row.id, to, own)
  if (changed === 0) throw new Refused('A colleague settled this proposal just now.')
  await tellTalk(trx, row.list_id)
  if (own) return
  const list = await listName(trx, row.list_id)
  const by = await nameOf(trx, to.decided_by)
  await tellWork(
    trx,
    row.proposed_by,
    `${by?.name ?? 'Somebody'} ${to.decision === 'taken' ? 'took' : 'did not take'} what you proposed for “${list.name}”.`,
    `/lists/${row.list_id}`,
  )
}

/** Returns a proposal. Refuses where there is none. */
export async function proposalOf(id: number): Promise<ProposalRow> {
  const row = Number.isSafeInteger(id) ? await proposalRow(db(), id) : undefined
  if (!row) throw new Refused('There is no such proposal.', 'not found')
  return row
}

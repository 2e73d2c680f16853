import { crossed, holdsProposal, proposed, withProposal } from '@/core/lists/proposals'
import { allows } from '@/core/records/list-roles'
import type { ProposalEffect, ProposalView } from '@/core/views/list-views'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { differences, heldAgainst, type Side } from './compare-editions'
import { signedLine, validPage } from './signed-lines'
import { saveEdition } from './save-edition'
import { linesOfEdition, listFor } from './open-list'
import { checkNames, checkSeen } from './named-lists'
import { withTrueNames } from './true-names'
import { decide, proposalOf } from './settle-held'
import { latestEdition } from '@/db/lists/list-rows'
import { holdParts } from '@/db/lists/line-parts'
import { countOpen, insertProposal, markTold, type ProposalRow, proposalRows } from '@/db/lists/proposals'
import { tellTalk, tellWork } from '@/db/team/news'
import { deleteDraft, putDraftUnlessThere } from '@/db/lists/drafts'
import { nameOf } from '@/db/team/colleagues'

/** So many of a list wait at most. */
const MOST_OPEN = 20

/**
 * Proposes other lines for a list to its owner and whoever else may edit it, from what this person worked on. Their draft
 * ends with it. Gives the proposal's number.
 */
export async function propose(actor: Actor, id: number, basedOn: number, raw: unknown, note: string): Promise<number> {
  const lines = validPage(raw).map((line) => signedLine(line, actor))
  return db().transaction(async (trx) => {
    const list = await listFor(actor, id, 'see', trx, true)
    const basis = await linesOfEdition(id, basedOn, trx)
    const standing = await latestEdition(id, trx)
    if (proposed(basis, lines).length === 0 || holdsProposal(basis, lines, standing.lines))
      throw new Refused('The list says that already: there is nothing to propose.')
    await checkNames(actor, id, withProposal(basis, lines, standing.lines), standing.lines, trx)
    const open = await countOpen(trx, id)
    if (Number(open?.n) >= MOST_OPEN)
      throw new Refused(
        `${MOST_OPEN} proposals for this list wait already. Its owner has to settle some first; your lines are kept as your draft.`,
      )
    const named = await withTrueNames(actor, lines, standing.lines, trx)
    await holdParts(trx, id, named)
    const [made] = await insertProposal(trx, { id, basedOn, named, note, actorId: actor.id })
    await deleteDraft(trx, id, actor.id)
    await tellTalk(trx, id)
    if (list.owner_id !== actor.id)
      await tellWork(trx, list.owner_id, `${actor.name} proposes something for “${list.name}”.`, `/lists/${id}`)
    return made.id
  })
}

/** What waits for those who may edit a list; for everybody, what they proposed themselves and have not been told of yet. */
export async function proposalsFor(actor: Actor, id: number): Promise<ProposalView[]> {
  const list = await listFor(actor, id)
  const rows: (ProposalRow & { by: string; decider: string | null })[] = await proposalRows(db(), id, actor.id, list.role)
  const latest = await latestEdition(id)
  const shown: ProposalView[] = []
  for (const row of rows) {
    const basis = await linesOfEdition(id, row.based_on)
    const page = withProposal(basis, row.lines, latest.lines)
    const meets = new Set(crossed(basis, row.lines, latest.lines))
    shown.push({
      id: row.id,
      by: row.by ?? 'Somebody who left',
      mine: row.proposed_by === actor.id,
      mayDecide: allows(list.role, 'edit'),
      at: row.proposed_at.toISOString(),
      note: row.note,
      basedOn: row.based_on,
      basis,
      lines: row.lines,
      page,
      differences: differences(row.decision === null ? latest.lines : basis, row.decision === null ? page : row.lines).flatMap((d) =>
        d.is === 'same' ? [] : [{ ...d, crosses: row.decision === null && meets.has(d.id) }],
      ),
      decision: row.decision === null ? null : { is: row.decision, by: row.decider ?? '', reason: row.reason ?? '', edition: row.edition },
    })
  }
  return shown
}

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

/** Takes a proposal: the list as it stands now with what was proposed is saved as its next edition. Gives its number. */
export async function takeProposal(actor: Actor, proposal: number): Promise<number> {
  const row = await openProposal(actor, proposal)
  const latest = await latestEdition(row.list_id)
  const page = withProposal(await linesOfEdition(row.list_id, row.based_on), row.lines, latest.lines)
  const by = (await nameOf(db(), row.proposed_by))?.name ?? 'somebody who left'
  const saved = await saveEdition(actor, row.list_id, latest.number, page, {
    why: `proposed by ${by}${row.note ? `: ${row.note}` : ''}`,
    draft: 'stays',
    taking: row.id,
  })
  if ('theirs' in saved)
    throw new Refused(`${saved.theirs.by} saved edition ${saved.theirs.edition} just now. Look at it first; the proposal still waits.`)
  return saved.edition
}

/** Leaves a proposal, with why, which whoever made it is told. */
export async function leaveProposal(actor: Actor, proposal: number, reason: string): Promise<void> {
  const row = await openProposal(actor, proposal)
  await decide(db(), row, { decision: 'not taken', decided_by: actor.id, reason: String(reason).trim().slice(0, 500) })
}

/** Takes back what one proposed oneself; its lines come back as one's draft where none stands. */
export async function takeBackProposal(actor: Actor, proposal: number): Promise<void> {
  const row = await proposalOf(proposal)
  await listFor(actor, row.list_id)
  if (row.proposed_by !== actor.id) throw new Refused('Only who proposed something takes it back.', 'not allowed')
  if (row.decision !== null) throw new Refused('That proposal is settled already.')
  await db().transaction(async (trx) => {
    await decide(trx, row, { decision: 'taken back', decided_by: actor.id })
    await putDraftUnlessThere(trx, row.list_id, actor.id, row.based_on, row.lines)
  })
}

/** Marks that whoever proposed something has read what became of it. */
export async function readDecision(actor: Actor, proposal: number): Promise<void> {
  await markTold(db(), proposal, actor.id)
}

async function openProposal(actor: Actor, id: number): Promise<ProposalRow> {
  const row = await proposalOf(id)
  await listFor(actor, row.list_id, 'edit')
  if (row.decision !== null) throw new Refused('That proposal is settled already.')
  return row
}

import { crossed, holdsProposal, proposed, withProposal } from '@/core/lists/proposals'
import { allows } from '@/core/records/list-roles'
import type { ProposalView } from '@/core/views/list-views'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { differences } from './compare-editions'
import { signedLine, validPage } from './signed-lines'
import { linesOfEdition, listFor } from './open-list'
import { checkNames } from './named-lists'
import { withTrueNames } from './true-names'
import { proposalOf } from './settle-held'
import { latestEdition } from '@/db/lists/list-rows'
import { holdParts } from '@/db/lists/line-parts'
import { countOpen, insertProposal, type ProposalRow, proposalRows } from '@/db/lists/proposals'
import { tellTalk, tellWork } from '@/db/team/news'
import { deleteDraft } from '@/db/lists/drafts'

/** So many of a list wait at most. */
const MOST_OPEN = 20

export interface Proposing {
  /** Whether what this person worked on ends with it: it stays where the lines are not theirs. */
  draft?: 'ends' | 'stays'
  /** What is written with it, in its transaction. */
  also?: (trx: Knex, proposal: number) => Promise<void>
}

/**
 * Proposes other lines for a list to its owner and whoever else may edit it, from what this person worked on. Their draft
 * ends with it. Gives the proposal's number.
 */
export async function propose(
  actor: Actor,
  id: number,
  basedOn: number,
  raw: unknown,
  note: string,
  { draft = 'ends', also }: Proposing = {},
): Promise<number> {
  const lines = validPage(raw).map((line) => signedLine(line, actor))
  return db().transaction(async (trx) => {
    const list = await listFor(actor, id, 'see', trx, true)
    const basis = await linesOfEdition(id, basedOn, trx)
    const standing = await latestEdition(id, trx)
    if (proposed(basis, lines).length === 0 || holdsProposal(basis, lines, standing.lines))
      throw new Refused('The list says this already, so there is nothing to propose.')
    await checkNames(actor, id, withProposal(basis, lines, standing.lines), standing.lines, trx)
    const open = await countOpen(trx, id)
    if (Number(open?.n) >= MOST_OPEN)
      throw new Refused(
        `${MOST_OPEN} proposals for this list wait already. Its owner has to settle some first; your lines are kept as your draft.`,
      )
    const named = await withTrueNames(actor, lines, standing.lines, trx)
    await holdParts(trx, id, named)
    const [made] = await insertProposal(trx, { id, basedOn, named, note, actorId: actor.id })
    if (draft === 'ends') await deleteDraft(trx, id, actor.id)
    await also?.(trx, made.id)
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

/** Returns a proposal that waits for a decision, to somebody who may edit its list. Refuses a settled one. */
export async function openProposal(actor: Actor, id: number): Promise<ProposalRow> {
  const row = await proposalOf(id)
  await listFor(actor, row.list_id, 'edit')
  if (row.decision !== null) throw new Refused('This proposal is settled already.')
  return row
}

import { withProposal } from '@/core/lists/proposals'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { saveEdition } from './save-edition'
import { linesOfEdition } from './open-list'
import { latestEdition } from '@/db/lists/list-rows'
import { nameOf } from '@/db/team/colleagues'
import { openProposal } from './proposals'

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

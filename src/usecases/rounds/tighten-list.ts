import { db } from '@/db/connection'
import { latestEdition } from '@/db/lists/list-rows'
import { allows } from '@/core/records/list-roles'
import { listFor } from '@/usecases/lists/open-list'
import { lineId } from '@/usecases/lists/put-on-list'
import { propose, proposalsFor } from '@/usecases/lists/proposals'
import { saveEdition } from '@/usecases/lists/save-edition'
import { type Actor, Refused } from '@/usecases/team/actor'
import { fitPatterns } from './fit-patterns'
import { roundFor } from './rounds'

/**
 * Makes a line of something that those who do not belong share: in a new edition of the list by whoever may edit it, else as a proposal to
 * its owner. The line is made anew from the list as it is now. Gives the number of the edition, or null for a proposal.
 */
export async function tightenList(actor: Actor, round: number, pattern: string): Promise<number | null> {
  const { list } = await roundFor(actor, round)
  const { role } = await listFor(actor, list.id, 'use')
  const found = (await fitPatterns(actor, round)).find(({ id }) => id === pattern)
  if (!found) throw new Refused('This does not stand out any more. Nothing was changed. Look at what does now.', 'not found')
  const { number, lines } = await latestEdition(list.id, db())
  const why = `fit check: ${found.unfit} of ${found.allUnfit} who do not belong, ${found.fit} of ${found.allFit} who fit`
  // A line is changed as it stands now, whatever a colleague saved of it meanwhile; a new one has an id of its own.
  const next = found.changes
    ? lines.map((line) => (line.id === found.line.id && line.verb === 'keep' ? { ...line, unknownAsYes: false } : line))
    : [...lines, { ...found.line, id: lineId() }]
  if (!allows(role, 'edit')) {
    const waits = (await proposalsFor(actor, list.id)).some((own) => own.mine && own.decision === null && own.note === why)
    if (waits) throw new Refused('You have proposed this already, and nobody has answered yet.')
    await propose(actor, list.id, number, next, why, { draft: 'stays' })
    return null
  }
  const saved = await saveEdition(actor, list.id, number, next, { why, draft: 'stays' })
  if ('theirs' in saved)
    throw new Refused(`${saved.theirs.by} saved edition ${saved.theirs.edition} just now. Nothing was changed. Try again.`)
  return saved.edition
}

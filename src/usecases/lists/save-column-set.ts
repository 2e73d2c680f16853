import { type SavedColumns, validTable } from '@/core/facets/table'
import type { Subject } from '@/core/records/subject'
import { db } from '@/db/connection'
import { writeColumnSet } from '@/db/lists/column-sets'
import { type Actor, Refused } from '@/usecases/team/actor'
import { columnSets } from './column-sets'

const LONGEST = 60

/** Saves columns under a name for the team, in place of one’s own of that name, and gives all sets there are. A colleague’s stay as they are. */
export async function saveColumnSet(actor: Actor, subject: Subject, name: string, raw: unknown): Promise<SavedColumns[]> {
  const called = name.trim().replace(/\s+/g, ' ')
  if (called === '' || called.length > LONGEST) throw new Refused(`Give the columns a name of 1 to ${LONGEST} characters.`)
  const { columns, pinned } = validTable(raw, subject)
  const theirs = (await columnSets(actor, subject)).find((set) => !set.mine && set.name.toLowerCase() === called.toLowerCase())
  if (theirs) throw new Refused(`${theirs.by} saved columns as “${theirs.name}”. Nothing was saved; choose another name.`)
  await writeColumnSet(db(), subject, called, { columns, ...(pinned ? { pinned } : {}) }, actor.id)
  return columnSets(actor, subject)
}

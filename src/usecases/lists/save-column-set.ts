import { type SavedColumns, validTable } from '@/core/facets/table'
import type { Subject } from '@/core/records/subject'
import { db } from '@/db/connection'
import { columnSetOf, writeColumnSet } from '@/db/lists/column-sets'
import { type Actor, Refused } from '@/usecases/team/actor'
import { columnSets } from './column-sets'

const LONGEST = 60

/** Saves columns under a name for the team, in place of one’s own of that name, and gives all sets there are. A colleague’s stay as they are. */
export async function saveColumnSet(actor: Actor, subject: Subject, name: string, raw: unknown): Promise<SavedColumns[]> {
  const called = name.trim().replace(/\s+/g, ' ')
  if (called === '' || called.length > LONGEST) throw new Refused(`Give the columns a name of 1 to ${LONGEST} characters.`)
  const { columns, pinned } = validTable(raw, subject)
  if ((await writeColumnSet(db(), subject, called, { columns, ...(pinned ? { pinned } : {}) }, actor.id)) === 0) {
    const theirs = await columnSetOf(db(), subject, called)
    throw new Refused(
      `${theirs?.by ?? 'A colleague'} saved columns as “${theirs?.name ?? called}”. Nothing was saved; choose another name.`,
    )
  }
  return columnSets(actor, subject)
}

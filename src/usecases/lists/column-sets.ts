import { type SavedColumns, validTable } from '@/core/facets/table'
import type { Subject } from '@/core/records/subject'
import { db } from '@/db/connection'
import { columnSetRows } from '@/db/lists/column-sets'
import { type Actor, mayCoordinate } from '@/usecases/team/actor'

/** The sets of columns the team saved for tables of a subject; `mine` are those this person may delete. */
export async function columnSets(actor: Actor, subject: Subject): Promise<SavedColumns[]> {
  return (await columnSetRows(db(), subject)).map(({ id, name, columns, by, saved_by }) => {
    const { columns: known, pinned } = validTable(columns, subject)
    return { id, name, columns: known, ...(pinned ? { pinned } : {}), by, mine: saved_by === actor.id || mayCoordinate(actor) }
  })
}

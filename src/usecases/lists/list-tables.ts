import { type TableSet, validTable } from '@/core/facets/table'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import type { ListRow } from '@/db/lists/list-rows'
import { tableRow } from '@/db/lists/list-marks'

/** How this person set up the table of a list, or as it is at first. */
export async function tableOf(actor: Actor, list: ListRow): Promise<TableSet> {
  const row = await tableRow(db(), list.id, actor.id)
  return validTable(row?.columns, list.subject)
}

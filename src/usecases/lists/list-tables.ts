import { type TableSet, validTable } from '@/core/facets/table'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { listFor } from './open-list'
import type { ListRow } from '@/db/lists/list-rows'

/** How this person set up the table of a list, or as it is at first. */
export async function tableOf(actor: Actor, list: ListRow): Promise<TableSet> {
  const row = await db()('list_table').where({ list_id: list.id, user_id: actor.id }).first('columns')
  return validTable(row?.columns, list.subject)
}

/** Keeps the set-up of a list's table for this person. */
export async function keepTable(actor: Actor, id: number, raw: unknown): Promise<void> {
  const list = await listFor(actor, id)
  await db()('list_table')
    .insert({ list_id: id, user_id: actor.id, columns: JSON.stringify(validTable(raw, list.subject)) })
    .onConflict(['list_id', 'user_id'])
    .merge()
}

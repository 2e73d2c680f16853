import type { FileLayout, SavedLayout } from '@/core/rounds/file-layout'
import type { Channel } from '@/core/records/channels'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

/** Returns the layouts that the team saved, by name. */
export async function layoutRows(trx: Knex): Promise<SavedLayout[]> {
  return await trx('file_layout').orderByRaw('lower(name), id').select('id', 'channel', 'name', 'format', 'columns')
}

/** Saves a layout under a name; one of the same channel that has it already is written over. Gives its id. */
export async function saveLayoutRow(
  trx: Knex,
  channel: Channel,
  name: string,
  { format, columns }: FileLayout,
  by: string,
): Promise<number> {
  const { rows } = await trx.raw(
    `insert into file_layout (channel, name, format, columns, saved_by, saved_at) values (?, ?, ?, ?::jsonb, ?, ?)
     on conflict (channel, lower(name)) do update set name = excluded.name, format = excluded.format, columns = excluded.columns,
       saved_by = excluded.saved_by, saved_at = excluded.saved_at returning id`,
    [channel, name, format, JSON.stringify(columns), by, now()],
  )
  return rows[0].id
}

/** Deletes a saved layout and returns how many were deleted: 1, or 0 where somebody was faster. */
export async function deleteLayoutRow(trx: Knex, id: number): Promise<number> {
  return await trx('file_layout').where({ id }).delete()
}

import type { ColumnSet } from '@/core/facets/table'
import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

/** The sets of columns the team saved for tables of a subject, by name. */
export async function columnSetRows(
  trx: Knex,
  subject: Subject,
): Promise<{ id: number; name: string; columns: ColumnSet; by: string; saved_by: string }[]> {
  return await trx('column_set as c')
    .join('user as u', 'u.id', 'c.saved_by')
    .where({ subject })
    .orderByRaw('lower(c.name)')
    .select('c.id', 'c.name', 'c.columns', 'c.saved_by', 'u.name as by')
}

/** Whose set of a subject has a name, however it is written. */
export async function columnSetOf(trx: Knex, subject: Subject, name: string): Promise<{ name: string; by: string } | undefined> {
  return await trx('column_set as c')
    .join('user as u', 'u.id', 'c.saved_by')
    .where({ subject })
    .whereRaw('lower(c.name) = lower(?)', [name])
    .first('c.name', 'u.name as by')
}

/** Saves a set under a name, in place of one’s own of that name. Gives how many were saved: none where a colleague’s has the name. */
export async function writeColumnSet(trx: Knex, subject: Subject, name: string, columns: ColumnSet, by: string): Promise<number> {
  const saved = await trx('column_set')
    .insert({ subject, name, columns: JSON.stringify(columns), saved_by: by, saved_at: now() })
    .onConflict(trx.raw('(subject, lower(name))'))
    .merge()
    .where('column_set.saved_by', by)
    .returning('id')
  return saved.length
}

/** Deletes a set; with `by`, only where that person saved it. Gives how many were deleted. */
export async function deleteColumnSet(trx: Knex, id: number, by: string | null): Promise<number> {
  return await trx('column_set')
    .where({ id, ...(by === null ? {} : { saved_by: by }) })
    .delete()
}

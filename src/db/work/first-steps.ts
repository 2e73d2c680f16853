import type { Knex } from '@/db/connection'

/** What there is of a book that was just opened. `batch` is the first file of people or premises that waits or is in. */
export async function firstStepsRow(trx: Knex): Promise<{
  batch: number | null
  mapped: boolean
  stored: boolean
  suppressions: boolean
  list: boolean
}> {
  const { rows } = await trx.raw(
    `select (select min(id) from batch where state <> 'undone') as batch,
       exists (select 1 from batch where state not in ('mapping', 'undone')) as mapped,
       exists (select 1 from person) or exists (select 1 from premises) as stored,
       exists (select 1 from suppression) or exists (select 1 from register_file) as suppressions,
       exists (select 1 from list where deleted_at is null) as list`,
  )
  return rows[0]
}

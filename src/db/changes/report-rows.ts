import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'

export interface NewReport {
  entry_id: number
  kind_id: number | null
  seen_on: string
  stated: boolean
  source: string
  /** HMACs as hexadecimal digits. */
  same: string[]
}

/** Inserts the reports behind entries that a source or a colleague made, with the keys by which the same happening is known again. */
export async function insertReport(trx: Knex, reports: readonly NewReport[]): Promise<void> {
  if (reports.length === 0) return
  await trx.raw(
    `insert into report (entry_id, kind_id, seen_on, stated, source, same)
     select r.entry_id, r.kind_id, r.seen_on, r.stated, r.source, coalesce((select array_agg(decode(k, 'hex')) from jsonb_array_elements_text(r.same) k), '{}')
     from jsonb_to_recordset(?::jsonb) as r(entry_id bigint, kind_id bigint, seen_on date, stated boolean, source text, same jsonb)`,
    [JSON.stringify(reports)],
  )
}

/** Whether a record is in the directory. */
export async function recordStands(trx: Knex, of: Subject, id: number): Promise<boolean> {
  const row = await trx(of)
    .where(of === 'organisation' ? { id, live: true } : { id, state: 'live' })
    .first('id')
  return row !== undefined
}

/** Whether a kind of change exists and is not archived. */
export async function kindStands(trx: Knex, id: number): Promise<boolean> {
  return (await trx('change_kind').where({ id }).whereNull('archived_at').first('id')) !== undefined
}

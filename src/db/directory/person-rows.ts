import type { PersonPage } from '@/core/views/record-views'
import { db } from '@/db/connection'
import type { Way } from '@/core/columns/person-record'

/** The rows of files somebody was in, as they came, the newest first: at most twenty. */
export async function rowsOfPerson(ids: number[]): Promise<PersonPage['came']> {
  const rows = await db()('batch_row as r')
    .join('batch as b', 'b.id', 'r.batch_id')
    .whereIn('r.person_id', ids)
    .where('b.kind', 'people')
    .orderBy('b.id', 'desc')
    .orderBy('r.row_no')
    .limit(20)
    .select('r.batch_id', 'r.row_no', 'r.raw', 'b.file_name', 'b.header', 'b.created_at')
  return rows.map((r) => ({
    batch: r.batch_id,
    file: r.file_name,
    at: r.created_at.toISOString(),
    row: r.row_no,
    cells: (r.header as string[]).flatMap((title, i) =>
      r.raw[i]?.trim() ? [{ title: title || `Column ${i + 1}`, cell: r.raw[i] as string }] : [],
    ),
  }))
}

export async function named(ids: number[]): Promise<Map<number, Named>> {
  const rows: Named[] = await db()('person as p')
    .leftJoin('organisation as o', 'o.id', 'p.organisation_id')
    .leftJoin('facts as f', 'f.person_id', 'p.id')
    .leftJoin('user as u', 'u.id', 'f.last_by')
    .whereIn('p.id', ids)
    .select(
      'p.id',
      'p.name',
      'p.role',
      'o.name as organisation',
      'o.id as organisationId',
      'f.last_at',
      'f.last_channel',
      'f.last_result',
      'u.name as last_by',
    )
  return new Map(rows.map((row) => [row.id, row]))
}

/** What a row says of somebody besides what can be told at a glance. */
export interface Named {
  id: number
  name: string
  role: string | null
  organisation: string | null
  organisationId: number | null
  last_at: Date | null
  last_channel: Way
  last_result: string | null
  last_by: string | null
}

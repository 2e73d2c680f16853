import type { PersonRecord, Way } from '@/core/columns/person-record'
import type { PersonView, Reach } from '@/core/views/record-views'
import { type Glance, glanceOf } from '@/core/screening/glance'
import { db } from '@/db/connection'
import { personRecords } from '@/db/directory/person-records'
import { momentNow } from '@/usecases/screening/screening-now'

/** What a row says of somebody besides what can be told at a glance. */
interface Named {
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

async function named(ids: number[]): Promise<Map<number, Named>> {
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

function viewOf({ id, name, role, organisation, organisationId, ...f }: Named, glance: Glance): PersonView {
  return {
    id,
    name,
    role,
    organisation,
    organisationId,
    ...glance,
    last: f.last_at ? { at: f.last_at.toISOString(), channel: f.last_channel, result: f.last_result, by: f.last_by ?? '' } : null,
  }
}

/** Rows for a page of people, in the order of the ids, of whom the engine told what can be told at a glance. */
export async function peopleRows(ids: number[], glances: readonly Glance[]): Promise<PersonView[]> {
  if (ids.length === 0) return []
  const rows = await named(ids)
  return ids.flatMap((id, i) => {
    const row = rows.get(id)
    return row ? [viewOf(row, glances[i])] : []
  })
}

/** The same with the records they were made from, all of it read from the database; by `reachOf` where other rules tell how they can be reached. */
export async function peoplePage(
  ids: number[],
  reachOf?: (record: PersonRecord) => Reach,
): Promise<{ view: PersonView; record: PersonRecord }[]> {
  if (ids.length === 0) return []
  const rows = await named(ids)
  const records = new Map((await personRecords(db(), ids)).map(({ record }) => [record.id, record]))
  const moment = momentNow()
  return ids.flatMap((id) => {
    const row = rows.get(id)
    const record = records.get(id)
    if (!row || !record) return []
    const glance = glanceOf(record, moment)
    return [{ record, view: viewOf(row, reachOf ? { ...glance, reach: reachOf(record) } : glance) }]
  })
}

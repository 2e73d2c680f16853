import type { PersonRecord } from '@/core/records/person-record'
import type { PersonView, Reach } from '@/core/views/record-views'
import { type Glance, glanceOf } from '@/core/screening/glance'
import { db } from '@/db/connection'
import { personRecords } from '@/db/directory/person-records'
import { momentNow } from '@/usecases/screening/screening-now'
import { named, type Named } from '@/db/directory/person-rows'

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

/**
 * The same with the records they were made from, all of it read from the database; by `reachOf` where other rules tell how they can be
 * reached, after `ready` has given the records what those rules ask besides.
 */
export async function peoplePage(
  ids: number[],
  reachOf?: (record: PersonRecord) => Reach,
  ready?: (records: PersonRecord[]) => Promise<void>,
): Promise<{ view: PersonView; record: PersonRecord }[]> {
  if (ids.length === 0) return []
  const rows = await named(ids)
  const records = new Map((await personRecords(db(), ids)).map(({ record }) => [record.id, record]))
  await ready?.([...records.values()])
  const moment = momentNow()
  return ids.flatMap((id) => {
    const row = rows.get(id)
    const record = records.get(id)
    if (!row || !record) return []
    const glance = glanceOf(record, moment)
    return [{ record, view: viewOf(row, reachOf ? { ...glance, reach: reachOf(record) } : glance) }]
  })
}

import type { Subject } from '@/core/records/subject'
import type { RecordView } from '@/core/views/list-views'
import { personRecord } from '@/core/views/person-record'
import type { Glance } from '@/core/screening/glance'
import { db } from '@/db/connection'
import { peoplePage, peopleRows } from './people-page'
import { postalText } from '@/db/directory/postal-rows'
import { recordsWithPlace } from '@/db/directory/record-rows'

/** Rows for a page of records of any subject, in the order of the ids; of people with what the engine told at a glance, where it did. */
export async function recordsPage(subject: Subject, ids: number[], glances?: readonly Glance[]): Promise<RecordView[]> {
  if (ids.length === 0) return []
  if (subject === 'person') {
    const people = glances ? await peopleRows(ids, glances) : (await peoplePage(ids)).map(({ view }) => view)
    return people.map(personRecord)
  }
  const table = subject === 'organisation' ? 'organisation' : 'premises'
  const rows = new Map((await recordsWithPlace(db(), table, ids, subject)).map((row) => [row.id, row]))
  return ids.flatMap((id) => {
    const row = rows.get(id)
    return row
      ? [
          {
            id,
            title: row.name,
            under: [row.kind, postalText(row)].filter(Boolean).join(' · ') || 'no address',
            href: `/directory/${subject === 'organisation' ? 'organisations' : 'premises'}/${id}`,
            person: null,
          },
        ]
      : []
  })
}

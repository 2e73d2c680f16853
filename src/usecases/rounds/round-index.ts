import type { Subject } from '@/core/records/subject'
import type { RoundIndexRow } from '@/core/views/round-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { roundRows } from '@/db/rounds/round-rows'
import { stateOf } from './rounds'

/** Every round of the lists this person may see, the newest first. */
export async function roundIndex(actor: Actor): Promise<RoundIndexRow[]> {
  const rows = await roundRows(db(), actor.id)
  return rows.map((row: never) => indexRow(row))
}

export function indexRow(row: {
  id: number
  number: number
  list_id: number
  name: string
  started_at: Date
  released_at: Date | null
  closed_at: Date | null
  by: string
  subject: Subject
  listed: number | null
  clear: number | null
  to_come: number
}): RoundIndexRow {
  return {
    id: row.id,
    number: row.number,
    listId: row.list_id,
    list: row.name,
    subject: row.subject,
    state: stateOf(row),
    at: (row.closed_at ?? row.released_at ?? row.started_at).toISOString(),
    by: row.by,
    listed: row.listed,
    clear: row.clear,
    toCome: row.to_come,
  }
}

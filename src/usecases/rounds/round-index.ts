import type { Subject } from '@/core/records/subject'
import type { RoundIndexRow } from '@/core/views/round-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { lettersHeld } from '@/db/rounds/premises-round-rows'
import { now } from '@/runtime/clock'
import { roundRows } from '@/db/rounds/round-rows'
import { stateOf } from './rounds'

/** Every round of the lists this person may see, the newest first. */
export async function roundIndex(actor: Actor): Promise<RoundIndexRow[]> {
  const rows: Parameters<typeof indexRow>[0][] = await roundRows(db(), actor.id)
  const index: RoundIndexRow[] = []
  for (const row of rows) index.push(indexRow({ ...row, to_come: await withoutHeld(row.id, row.subject, row.to_come) }))
  return index
}

/** How many are still to come: letters that must not leave any more are not. */
export const withoutHeld = async (id: number, subject: Subject, toCome: number): Promise<number> =>
  subject === 'premises' && toCome > 0 ? toCome - (await lettersHeld(db(), id, now())).size : toCome

/** Returns a row of the index of rounds. */
export function indexRow(row: {
  id: number
  called: string
  supplement: number
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
    called: row.called,
    supplement: row.supplement > 0,
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

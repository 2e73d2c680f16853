import { startOfDate } from '@/core/calendar/local-day'
import type { Channel } from '@/core/columns/person-record'
import type { Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'

/** A contact that took place, to be recorded. */
export interface NewContact {
  person: number
  at: Date
  channel: Channel
  result: string | null
  note: string | null
  actor: string
  batch?: number
}

/**
 * Records contacts: entries of the ledger; a contact to come of an open round that one of them makes good is ended and
 * the entry names its round. Runs in the caller's transaction.
 */
export async function recordContacts(trx: Knex, contacts: NewContact[], recordedAt: Date): Promise<number[]> {
  if (contacts.length === 0) return []
  const due = await trx('contact_to_come').whereIn('person_id', contacts.map((c) => c.person)).whereNull('ended_at').select('round_id', 'person_id', 'channel', 'since')
  const waiting = new Map(due.map((d) => [`${d.person_id}|${d.channel}`, d]))
  const rounds = contacts.map((c) => {
    const key = `${c.person}|${c.channel}`
    const found = waiting.get(key)
    if (!found || found.since > c.at) return null
    waiting.delete(key)
    return found
  })
  const ids = await writeEntries(
    trx,
    contacts.map((c, i) => ({ ...c, kind: 'contact' as const, round: rounds[i]?.round_id })),
    recordedAt,
  )
  const made = rounds.flatMap((round, i) => (round ? [{ ...round, entry_id: ids[i] }] : []))
  if (made.length > 0) {
    await trx.raw(
      `update contact_to_come t set ended_at = ?, entry_id = m.entry_id
       from jsonb_to_recordset(?::jsonb) as m(round_id bigint, person_id bigint, channel text, entry_id bigint)
       where t.round_id = m.round_id and t.person_id = m.person_id and t.channel = m.channel`,
      [recordedAt, JSON.stringify(made)],
    )
  }
  return ids
}

/** The instant of a date and time of day in a zone. */
export function instantOf(date: string, time: string, zone: string): Date {
  const [hours, minutes] = time.split(':').map(Number)
  return new Date(startOfDate(date, zone) + (hours * 60 + minutes) * 60_000)
}

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
  const due = await trx('contact_to_come').whereIn('person_id', contacts.map((c) => c.person)).whereNull('ended_at').select('round_id', 'person_id', 'channel', 'since')
  const rounds = contacts.map((c) => {
    const i = due.findIndex((d) => d.person_id === c.person && d.channel === c.channel && d.since <= c.at)
    return i < 0 ? null : due.splice(i, 1)[0]
  })
  const ids = await writeEntries(
    trx,
    contacts.map((c, i) => ({ ...c, kind: 'contact' as const, round: rounds[i]?.round_id })),
    recordedAt,
  )
  for (const [i, made] of rounds.entries()) {
    if (made) await trx('contact_to_come').where({ round_id: made.round_id, person_id: made.person_id, channel: made.channel }).update({ ended_at: recordedAt, entry_id: ids[i] })
  }
  return ids
}

/** The instant of a date and time of day in a zone. */
export function instantOf(date: string, time: string, zone: string): Date {
  const [hours, minutes] = time.split(':').map(Number)
  return new Date(startOfDate(date, zone) + (hours * 60 + minutes) * 60_000)
}

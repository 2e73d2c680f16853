import type { Knex } from '@/db/connection'
import { localDate } from '@/core/calendar/local-day'
import type { ContactRow } from '@/core/clean/contact-row'

/**
 * Returns the contacts that people already have, in the form in which two contacts are compared. A contact that was reversed is not one.
 */
export async function known(trx: Knex, people: number[], zone: string): Promise<string[]> {
  const rows = await trx('entry')
    .where({ kind: 'contact' })
    .whereIn('person_id', people)
    .whereNotExists(trx('entry as r').select(trx.raw('1')).whereRaw('r.reverses_id = entry.id'))
    .select('person_id', 'at', 'channel', 'result')
  return rows.map((e) => sameContact(e.person_id, e.at, e, zone))
}

/** Two contacts are one where they are of one person on one day of theirs, by one way and with one result. */
export const sameContact = (person: number, at: Date, row: Pick<ContactRow, 'channel' | 'result'>, zone: string) =>
  `${person}|${localDate(at.getTime(), zone)}|${row.channel}|${row.result ?? ''}`

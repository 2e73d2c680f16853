import { localDate } from '@/core/calendar/local-day'
import { contactRow, type Who } from '@/core/clean/contact-row'
import { cellsToClean } from '@/core/match/file-locale'
import type { Batch } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { isSet, type KnownPerson, peopleSharing, type RowOutcome } from '@/db/intake/intake-store'
import { keysOf } from '@/db/key'
import { settings } from '@/runtime/settings'
import { instantOf, recordContacts } from '@/usecases/contact/contact-people'
import { known, sameContact } from '@/db/intake/known-contacts'

/** Whom rows may be about: everybody who shares an outside id, an address or number, or a name. */
export function peopleNamed(trx: Knex, rows: Who[]): Promise<KnownPerson[]> {
  return peopleSharing(trx, {
    ids: rows.map((r) => r.record).filter(isSet),
    outsideIds: rows.map((r) => r.outsideId).filter(isSet),
    addressKeys: rows.flatMap((r) => [
      ...(r.email ? [keysOf({ email: r.email }).key] : []),
      ...(r.phone ? [keysOf({ phone: r.phone }).key] : []),
    ]),
    names: rows.map((r) => r.name?.key ?? null).filter(isSet),
  })
}

/** The people a row is about: by the number of the record or the outside id alone; else by email and phone, told apart by the name; else by name. */
export function peopleMeant(who: Who, people: KnownPerson[]): KnownPerson[] {
  if (who.record !== null) return people.filter((p) => p.id === who.record || (p.otherRecords ?? []).includes(who.record as number))
  if (who.outsideId) return people.filter((p) => p.outsideId === who.outsideId || (p.otherIds ?? []).includes(who.outsideId as string))
  const byName = (list: KnownPerson[]) => list.filter((p) => who.name?.key && p.name === who.name.key)
  if (!who.email && !who.phone) return byName(people)
  const reached = people.filter((p) => (who.email && p.emails.includes(who.email)) || (who.phone && p.phones.includes(who.phone)))
  const named = byName(reached)
  return named.length > 0 ? named : reached
}

/** Brings in some rows of contacts. A row that says what the ledger already says is *same*. One transaction. */
export async function runContacts(trx: Knex, batch: Batch, rows: { row_no: number; raw: string[] }[], at: Date): Promise<RowOutcome[]> {
  const { ARCH_REGION, ARCH_ZONE } = settings()
  const cleaned = rows.map(({ row_no, raw }) => ({ row_no, row: contactRow(cellsToClean(batch, raw, []), batch.mapping, ARCH_REGION) }))
  const people = await peopleNamed(
    trx,
    cleaned.flatMap(({ row }) => ('refused' in row ? [] : [row])),
  )
  const fresh: { contact: Parameters<typeof recordContacts>[1][number] }[] = []
  const seen = new Set<string>(
    await known(
      trx,
      people.map((p) => p.id),
      ARCH_ZONE,
    ),
  )
  const outcomes = cleaned.map(({ row_no, row }): RowOutcome => {
    if ('refused' in row) return { row_no, outcome: 'refused', reason: row.refused }
    const meant = peopleMeant(row, people)
    if (meant.length === 0)
      return { row_no, outcome: 'refused', reason: 'nobody in the directory has this number, id, email, phone or name' }
    if (meant.length > 1)
      return { row_no, outcome: 'in doubt', reason: 'it could be about any of several people', candidates: meant.map((p) => p.id) }
    const when = instantOf(row.date, row.time, ARCH_ZONE)
    // A day is to come when it is by the calendar; a time when it is by the clock.
    if (row.time === null ? row.date > localDate(at.getTime(), ARCH_ZONE) : when > at)
      return { row_no, outcome: 'refused', reason: 'the date lies in the future' }
    const moment = when > at ? at : when
    const key = sameContact(meant[0].id, moment, row, ARCH_ZONE)
    if (seen.has(key)) return { row_no, outcome: 'same', reason: 'this contact is in the ledger already', person_id: meant[0].id }
    seen.add(key)
    fresh.push({
      contact: {
        person: meant[0].id,
        at: moment,
        dayOnly: row.time === null,
        channel: row.channel,
        result: row.result,
        note: row.note,
        actor: batch.actor_id,
        batch: batch.id,
      },
    })
    return { row_no, outcome: 'new', person_id: meant[0].id }
  })
  await recordContacts(
    trx,
    fresh.map((f) => f.contact),
  )
  return outcomes
}

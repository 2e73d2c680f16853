import { namesOfAll } from '@/db/team/colleagues'
import { localDate, wallTime } from '@/core/calendar/local-day'
import { LEFT, STOP } from '@/core/records/results'
import type { Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { settings } from '@/runtime/settings'
import { type NewSuppression, writeSuppressions } from '@/usecases/screening/suppress-people'
import { fieldsOfPeople } from '@/db/changes/feed-rows'
import { type Report, writeReports } from '@/usecases/changes/report-change'
import { firstAddresses } from '@/db/contact/contact-rows'
import { endByContacts, spareSteps, toComeOf } from '@/db/rounds/contacts-to-come'
import { CHANNELS, type Way } from '@/core/records/channels'

/** A contact that took place, to be recorded. */
export interface NewContact {
  person: number
  at: Date
  /** Only the day is known, and `at` is noon of it. */
  dayOnly?: boolean
  channel: Way
  result: string | null
  note: string | null
  actor: string
  batch?: number
  /** On whose word a suppression is, where it is not the actor's. */
  word?: string
}

/**
 * Records contacts: entries of the ledger, each with the address or number it went to; a contact to come of an open round
 * that one of them makes good is ended and the entry names its round. One that ended in *asked us to stop* suppresses the
 * person for that channel, whichever way it came in, and for every channel when it was said in person or in public. One that ended in
 * *has left* reports that they left their organisation, for somebody to confirm. Runs in the caller's transaction, which passes the gate
 * here.
 */
export async function recordContacts(trx: Knex, contacts: NewContact[]): Promise<number[]> {
  if (contacts.length === 0) return []
  const recordedAt = await passGate(trx)
  const people = contacts.map((c) => c.person)
  const due = (await toComeOf(trx, people)) as {
    round_id: number
    person_id: number
    root: number
    channel: string
    since: Date
    address_id: number | null
  }[]
  const waiting = new Map(due.map((d) => [`${d.root}|${d.channel}`, d]))
  const made = contacts.map((c) => {
    const key = `${c.person}|${c.channel}`
    const found = waiting.get(key)
    // A contact of the day its round was released was made after it, whatever noon has to do with it.
    const sameDay =
      found && c.dayOnly && localDate(found.since.getTime(), settings().ARCH_ZONE) === localDate(c.at.getTime(), settings().ARCH_ZONE)
    if (!found || (found.since > c.at && !sameDay)) return null
    if (found.since > c.at) c.at = found.since
    waiting.delete(key)
    return found
  })
  const first = await firstAddresses(trx, people)
  const ids = await writeEntries(
    trx,
    contacts.map((c, i) => ({
      ...c,
      kind: 'contact' as const,
      round: made[i]?.round_id,
      address: made[i]?.address_id ?? first.get(`${c.person}|${c.channel}`) ?? null,
    })),
    recordedAt,
  )
  const ended = made.flatMap((m, i) => (m ? [{ round_id: m.round_id, person_id: m.person_id, channel: m.channel, entry_id: ids[i] }] : []))
  if (ended.length > 0) {
    await endByContacts(trx, recordedAt, ended)
  }
  await spareSteps(trx, people, recordedAt)
  const stops = contacts.filter((c) => c.result === STOP)
  if (stops.length > 0) await writeSuppressions(trx, await stopsOf(trx, stops))
  await reportLeft(
    trx,
    contacts.filter((c) => c.result === LEFT),
  )
  return ids
}

/** Reports of people that they left the organisation they are known to be with; of whom none is known, there is nothing to report. */
async function reportLeft(trx: Knex, left: NewContact[]): Promise<void> {
  if (left.length === 0) return
  const fields = await fieldsOfPeople(
    trx,
    left.map((c) => c.person),
  )
  const names = await namesByActor(trx, left)
  for (const actor of new Set(left.map((c) => c.actor)))
    await writeReports(
      trx,
      actor,
      left.flatMap((c): Report[] => {
        const before = fields.get(c.person)?.organisation ?? null
        if (c.actor !== actor || before === null) return []
        return [
          {
            of: 'person',
            record: c.person,
            kind: null,
            field: 'organisation',
            before,
            after: null,
            text: null,
            link: null,
            // They had left by the day it was said; nobody said since when.
            day: localDate(c.at.getTime(), settings().ARCH_ZONE),
            stated: false,
            source: `told to ${names.get(actor) ?? 'a colleague'}`,
            outsideId: null,
            ...(c.batch === undefined ? {} : { batch: c.batch }),
          },
        ]
      }),
    )
}

const namesByActor = async (trx: Knex, contacts: readonly NewContact[]): Promise<Map<string, string>> =>
  new Map((await namesOfAll(trx, [...new Set(contacts.map((c) => c.actor))])).map((u) => [u.id, u.name]))

/** The suppressions of people who asked us to stop. */
async function stopsOf(trx: Knex, stops: NewContact[]): Promise<NewSuppression[]> {
  const names = await namesByActor(trx, stops)
  return stops.map((c) => {
    const own = CHANNELS.find((channel) => channel === c.channel)
    return {
      of: { person: c.person },
      reason: 'opt-out',
      channels: own ? [own] : [...CHANNELS],
      since: c.at,
      until: null,
      word:
        c.word ??
        (c.batch ? `said so, by ${names.get(c.actor) ?? 'a colleague'}’s file` : `said so to ${names.get(c.actor) ?? 'a colleague'}`),
      actor: c.actor,
      batch: c.batch,
    }
  })
}

/** The instant of a date and time of day in a zone; noon where no time is known. */
export const instantOf = (date: string, time: string | null, zone: string): Date => new Date(wallTime(date, time ?? '12:00', zone))

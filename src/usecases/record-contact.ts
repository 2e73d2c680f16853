import { object, string } from 'yup'
import { type Channel, CHANNELS, WAYS } from '@/core/columns/person-record'
import { STOP } from '@/core/rounds/results'
import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from './actor'
import { instantOf, recordContacts } from './contact-people'
import { writeSuppressions } from './suppress-people'

const contactSchema = object({
  channel: string().oneOf(WAYS, 'Choose how the contact was made.').required('Choose how the contact was made.'),
  result: string().trim().max(80).nullable().default(null),
  note: string().trim().max(2000, 'A note holds at most 2,000 characters.').nullable().default(null),
  date: string().matches(/^\d{4}-\d\d-\d\d$/, 'Give the day of the contact.').nullable().default(null),
})

/**
 * Records a contact by hand: now, or on an earlier day. A contact that ended in *asked us to stop* suppresses the
 * person for that channel in the same transaction, and for every channel when it was said in person or in public.
 */
export async function recordContact(actor: Actor, person: number, input: unknown): Promise<void> {
  const contact = contactSchema.validateSync(input, { abortEarly: false })
  const at = contact.date ? instantOf(contact.date, '12:00', settings().ARCH_ZONE) : now()
  if (at.getTime() - now().getTime() > 12 * 3_600_000) throw new Refused('The contact lies in the future; only contacts that took place are recorded.')
  await db().transaction(async (trx) => {
    const known = await trx('person').where({ id: person, state: 'live' }).first('id')
    if (!known) throw new Refused('There is nobody with this number in the directory.', 'not found')
    const moment = at > now() ? now() : at
    await recordContacts(trx, [{ person, at: moment, channel: contact.channel, result: contact.result || null, note: contact.note || null, actor: actor.id }], now())
    if (contact.result === STOP) {
      await writeSuppressions(trx, [{ of: { person }, reason: 'opt-out', channels: CHANNELS.includes(contact.channel as Channel) ? [contact.channel as Channel] : [...CHANNELS], since: moment, until: null, word: `said so to ${actor.name}`, actor: actor.id }], now())
    }
  })
}

/** Writes a note into the ledger of a person. */
export async function addNote(actor: Actor, person: number, text: string): Promise<void> {
  const note = text.trim()
  if (note === '' || note.length > 2000) throw new Refused('A note holds 1 to 2,000 characters.')
  await db().transaction(async (trx) => {
    const known = await trx('person').where({ id: person, state: 'live' }).first('id')
    if (!known) throw new Refused('There is nobody with this number in the directory.', 'not found')
    await writeEntries(trx, [{ person, kind: 'note', at: now(), actor: actor.id, note }], now())
  })
}

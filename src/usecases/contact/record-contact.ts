import { object, string } from 'yup'
import { isDay } from '@/core/calendar/local-day'
import { trimmed } from '@/core/clean/name'
import { LEFT, resultMeant } from '@/core/records/results'
import { db } from '@/db/connection'
import { passGate } from '@/db/locks'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { nameSuccessor } from '@/usecases/changes/name-successor'
import { type Actor, mayCoordinate, Refused } from '@/usecases/team/actor'
import { instantOf, recordContacts } from './contact-people'
import { livePerson } from '@/db/directory/person-rows'
import { WAYS } from '@/core/records/channels'

const contactSchema = object({
  channel: string().oneOf(WAYS, 'Choose how the contact was made.').required('Choose how the contact was made.'),
  result: string().transform(trimmed).max(80).nullable().default(null),
  note: string().transform(trimmed).max(2000, 'A note holds at most 2,000 characters.').nullable().default(null),
  date: string()
    .test('day', 'Give the day of the contact.', (day) => day === null || day === undefined || isDay(day))
    .nullable()
    .default(null),
  /** Who does the work of somebody who has left. */
  successor: string().transform(trimmed).max(200, 'A name has at most 200 characters.').nullable().default(null),
})

/**
 * Records a contact by hand: now, or on an earlier day. Where they have left, whoever is named as their successor becomes a row in doubt.
 */
export async function recordContact(actor: Actor, person: number, input: unknown): Promise<void> {
  const contact = contactSchema.validateSync(input, { abortEarly: false })
  const at = contact.date ? instantOf(contact.date, null, settings().ARCH_ZONE) : now()
  if (at.getTime() - now().getTime() > 12 * 3_600_000)
    throw new Refused('The contact is dated in the future. Only contacts that took place can be recorded.')
  const result = resultMeant(contact.result)
  if (contact.successor && result !== LEFT) throw new Refused('Only somebody who has left has a successor. Nothing was recorded.')
  if (contact.successor && !mayCoordinate(actor))
    throw new Refused('Adding a successor is for coordinators and managers. Record the contact, and tell one.')
  await db().transaction(async (trx) => {
    const moment = await passGate(trx)
    const known = await livePerson(trx, person)
    if (!known) throw new Refused('There is no such person in the directory.', 'not found')
    await recordContacts(trx, [
      {
        person,
        at: contact.date === null || at > moment ? moment : at,
        dayOnly: contact.date !== null,
        channel: contact.channel,
        result,
        note: contact.note || null,
        actor: actor.id,
      },
    ])
    if (contact.successor) await nameSuccessor(trx, actor, person, contact.successor)
  })
}

import { cleanEmail } from '@/core/clean/email'
import { STOP } from '@/core/records/results'
import { db } from '@/db/connection'
import { addressKey, hintOf } from '@/db/key'
import { passGate } from '@/db/locks'
import { lockMessage, messageById, stoppedEmails } from '@/db/rounds/mail-rows'
import { now } from '@/runtime/clock'
import { recordContacts } from '@/usecases/contact/contact-people'
import { writeSuppressions } from '@/usecases/screening/suppress-people'
import { Refused } from '@/usecases/team/actor'
import { messageOfLink } from './compose-email'

/** What the page behind a link says: who sends the emails, where they go, and whether they are stopped. Opening it changes nothing. */
export async function stopPage(token: string): Promise<{ sender: string; to: string | null; stopped: boolean }> {
  const { message } = await behind(token)
  return {
    sender: message.sender,
    to: emailIn(message.to) && hintOf('email', message.to as string),
    stopped: !message.live || (await stoppedEmails(db(), { person: message.root }, now())),
  }
}

/**
 * Stops emails to whoever got a message, on the word of whoever has it: to the person, and to the address it went to, whoever has that by
 * now. The second time changes nothing. It is a contact of the round that ended in *asked us to stop*.
 */
export async function stopEmails(token: string): Promise<void> {
  const { id } = await behind(token)
  await db().transaction(async (trx) => {
    const at = await passGate(trx)
    // Mail programs may press twice at once.
    await lockMessage(trx, id)
    const message = await messageById(trx, id)
    if (!message) return
    const by = { at, actor: message.begun_by, word: `said so by the link in the email of round ${message.called}` }
    if (message.live && !(await stoppedEmails(trx, { person: message.root }, at)))
      await recordContacts(trx, [{ person: message.root, channel: 'email', result: STOP, note: null, ...by }])
    const email = emailIn(message.to)
    // One that is theirs no longer may be somebody else's, or come in again.
    if (email && !(await stoppedEmails(trx, { key: addressKey('email', email) }, at)))
      await writeSuppressions(trx, [
        { of: { email }, reason: 'opt-out', channels: ['email'], since: at, until: null, word: by.word, actor: by.actor },
      ])
  })
}

async function behind(token: string) {
  const id = messageOfLink(token)
  const message = id === null ? undefined : await messageById(db(), id)
  if (!id || !message)
    throw new Refused(
      'This link is incomplete or not ours. Copy all of it from the email, or answer the email and ask us to stop.',
      'not found',
    )
  return { id, message }
}

/** An address in its comparable form; null where it was erased. */
const emailIn = (to: string | null): string | null => {
  const email = to === null ? null : cleanEmail(to)
  return email?.usable ? email.normal : null
}

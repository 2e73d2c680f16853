import { randomUUID } from 'node:crypto'
import { mailService } from '@/sources/mail-service'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { emailOf } from '@/usecases/team/email-of'
import { OWN_LINK } from './check-letter'
import { composed } from './compose-email'
import { letterMeant } from './letter-meant'
import { letterReaders } from './letter-readers'
import { roundFor } from './rounds'

/** Sends a letter to whoever asks, as the reader of that number would get it. Gives the address it went to. */
export async function sendOneToMe(actor: Actor, id: number, raw: unknown, n: number): Promise<string> {
  mustCoordinate(actor, 'Sending emails')
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, list.id, 'use')
  const letter = letterMeant(raw)
  const to = await emailOf(actor)
  const readers = await letterReaders(round, list)
  const reader = readers[Math.min(Math.max(n, 0), readers.length - 1)]
  if (!reader) throw new Refused('Nobody gets this email, so there is nothing to try it with. Nothing was sent.')
  const { subject, text, html } = composed(letter, reader, OWN_LINK)
  const service = mailService()
  try {
    const sent = await service.send({
      id: randomUUID(),
      from: { name: letter.sender_name, address: letter.sender_email },
      to: { name: actor.name, address: to },
      subject,
      text,
      html,
      stop: null,
    })
    if (sent.is === 'unsure') throw new Refused('The mail service is not responding. Nothing was sent. Try again in a minute.')
    if (sent.is !== 'accepted') throw new Refused(`The mail service did not take the email to ${to}: ${sent.code}. Nothing was sent.`)
    return to
  } finally {
    service.close()
  }
}

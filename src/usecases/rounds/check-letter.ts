import { letterGaps, readLetter } from '@/core/rounds/letter'
import type { Letter, LetterCheck } from '@/core/views/letter-views'
import { db } from '@/db/connection'
import { emailsDue } from '@/db/rounds/mail-rows'
import type { Actor } from '@/usecases/team/actor'
import { composed } from './compose-email'
import { troublesOf } from './letter-meant'
import { letterReaders } from './letter-readers'
import { roundFor } from './rounds'

/** What stands in a preview in place of the link that is each reader’s own. */
export const OWN_LINK = 'each reader’s own link'

/**
 * A letter held against everybody who would get it: what cannot be read, who lacks which field, and how it looks for the one of that
 * number, from 0 on. Nothing is saved.
 */
export async function checkLetter(actor: Actor, id: number, letter: Letter, n: number): Promise<LetterCheck> {
  const { round, list } = await roundFor(actor, id)
  const readers = await letterReaders(round, list)
  const at = Math.min(Math.max(n, 0), readers.length - 1)
  const reader = readers[at]
  const text = {
    subject: letter.subject,
    body: letter.body,
    sender_name: letter.senderName,
    sender_email: letter.senderEmail,
    address: letter.address,
  }
  return {
    troubles: troublesOf(letter),
    people: readers.length,
    due: round.released_at ? await emailsDue(db(), id) : null,
    gaps: letterGaps(
      [readLetter(letter.subject).parts, readLetter(letter.body).parts],
      readers.map(({ values }) => values),
    ),
    shown: reader
      ? { n: at, person: reader.person, name: reader.values.name ?? '', to: reader.to, ...composed(text, reader, OWN_LINK) }
      : null,
  }
}

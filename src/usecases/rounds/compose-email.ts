import { timingSafeEqual } from 'node:crypto'
import { fillLetter, footerText, type LetterField, readLetter } from '@/core/rounds/letter'
import { keyed } from '@/db/key'
import type { LetterReader, LetterText } from '@/db/rounds/letter-rows'
import { escaped, letterHtml } from '@/formats/letter-html'
import { ourUrl } from '@/runtime/settings'

/** A letter as one person gets it, in plain text and in HTML, and the fields it lacks for them. */
export function composed(
  letter: LetterText,
  { values }: Pick<LetterReader, 'values'>,
  stop: string,
): { subject: string; text: string; html: string; lacking: LetterField[] } {
  const body = readLetter(letter.body).parts
  const subject = fillLetter(readLetter(letter.subject).parts, values)
  const { text, lacking } = fillLetter(body, values)
  return {
    subject: subject.text.trim(),
    text: `${text.trimEnd()}\n\n${footerText(letter.sender_name, letter.address, stop)}\n`,
    html: letterHtml(fillLetter(body, values, escaped).text, { sender: letter.sender_name, address: letter.address, stop }),
    lacking: [...new Set([...subject.lacking, ...lacking])],
  }
}

/** Where the reader of a message stops such emails. Only whoever has the message can know it. */
export const stopLink = (message: string): string => `${ourUrl()}/stop/${message}.${proof(message).toString('base64url')}`

/** The one press of it for mail programs (RFC 8058). */
export const oneClickLink = (message: string): string => `${stopLink(message)}/now`

/** The message that a link to stop was made for; null where it is none of ours. */
export function messageOfLink(token: string): string | null {
  const [, message, given] = /^([0-9a-f-]{36})\.([\w-]{22})$/.exec(token) ?? []
  if (!message || !given) return null
  return timingSafeEqual(Buffer.from(given), Buffer.from(proof(message).toString('base64url'))) ? message : null
}

const proof = (message: string): Buffer => keyed(`stop:${message}`).subarray(0, 16)

import { isEmailValid } from '@hapi/address'
import { asciiDomain } from './domain'
import { squeeze } from './name'

/** `done` says what was taken off, in words, where anything was. */
export type CleanAddress =
  | { usable: true; value: string; normal: string; done?: string[] }
  | { usable: false; value: string; normal: string; why: string; done?: string[] }

/** Marks nobody sees, which are no part of any address: format characters (category Cf) and controls. */
const UNSEEN = /[\p{Cf}\p{Cc}]+/gu
/** What spreadsheets put before a text to keep it one. */
const APOSTROPHE = /^['’‘]+(?=[^'’‘]+@)/

/**
 * An email address in its one form: `mailto:`, angle brackets, a display name, a leading apostrophe and marks nobody sees are
 * taken off; small letters; the domain in ASCII. RFC 5321 keeps the case of the part before the @, but no provider of note
 * tells two people apart by it (common practice, no source). An address that cannot be right is kept and marked unusable with
 * the reason. Null where the cell is empty.
 */
export function cleanEmail(raw: string): CleanAddress | null {
  const seen = raw.replace(/[\t\r\n]+/g, ' ').replace(UNSEEN, '')
  const text = squeeze(seen)
  if (text === '' || /^(n\/?a|none|nil|-+|unknown)$/i.test(text)) return null
  const bracketed = /<([^<>]+)>/.exec(text)
  const whole = (bracketed ? bracketed[1] : text)
    .replace(/^mailto:/i, '')
    .replace(/[;,.]+$/, '')
    .replace('＠', '@')
    .trim()
    .toLowerCase()
  const bare = whole.replace(APOSTROPHE, '')
  const done = [
    ...(seen.replace(/\s+/g, ' ') === raw.replace(/\s+/g, ' ') ? [] : ['a mark nobody sees taken off the email']),
    ...(bare === whole ? [] : ['an apostrophe taken off the email']),
  ]
  const at = bare.lastIndexOf('@')
  const domain = at < 0 ? null : asciiDomain(bare.slice(at + 1))
  const value = domain === null ? bare : `${bare.slice(0, at)}@${domain}`
  const told = done.length > 0 ? { done } : {}
  if (domain !== null && isEmailValid(value)) return { usable: true, value, normal: value, ...told }
  const why = !value.includes('@')
    ? 'there is no @'
    : value.includes(',')
      ? 'it has a comma'
      : value.includes(' ')
        ? 'it has a space'
        : 'it is not a complete email address'
  return { usable: false, value, normal: value, why, ...told }
}

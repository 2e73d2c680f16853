import { isEmailValid } from '@hapi/address'
import { squeeze } from './name'

export type CleanAddress = { usable: true; value: string; normal: string } | { usable: false; value: string; normal: string; why: string }

/**
 * An e-mail address: `mailto:`, angle brackets and a display name taken off, all in small letters. RFC 5321 keeps the
 * case of the part before the @, but no provider of note tells two people apart by it (common practice, no source).
 * An address that cannot be right is kept and marked unusable with the reason. Null where the cell is empty.
 */
export function cleanEmail(raw: string): CleanAddress | null {
  const text = squeeze(raw)
  if (text === '' || /^(n\/?a|none|nil|-+|unknown)$/i.test(text)) return null
  const bracketed = /<([^<>]+)>/.exec(text)
  const value = (bracketed ? bracketed[1] : text)
    .replace(/^mailto:/i, '')
    .replace(/[;,.]+$/, '')
    .trim()
    .toLowerCase()
  if (isEmailValid(value)) return { usable: true, value, normal: value }
  const why = !value.includes('@') ? 'there is no @' : value.includes(',') ? 'it has a comma' : value.includes(' ') ? 'it has a space' : 'it is not a whole e-mail address'
  return { usable: false, value, normal: value, why }
}

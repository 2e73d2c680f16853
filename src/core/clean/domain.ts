import { isDomainValid } from '@hapi/address'
import { squeeze } from './name'

/** Letters, digits, hyphens and dots alone, and no label that stands for other letters. */
const PLAIN = /^(?!.*xn--)[a-z0-9.-]+$/

/**
 * The one form of a domain, however it is written: ASCII in small letters (UTS 46 and IDNA, as the URL standard applies them), so
 * that *münchen.example* and *xn--mnchen-3ya.example* are one. Null where no domain can read so.
 */
export function asciiDomain(domain: string): string | null {
  const small = domain.toLowerCase()
  if (PLAIN.test(small)) return small
  try {
    const { hostname } = new URL(`http://${small}`)
    // A slash, colon or @ would have ended the host early.
    return /[/:@?#\\[\]\s%]/.test(small) ? null : hostname
  } catch {
    return null
  }
}

/** An email domain as it stands behind the @, in its one form; null where it is none. A leading @ is taken off. */
export function cleanDomain(raw: string): string | null {
  const domain = asciiDomain(
    squeeze(raw)
      .replace(/^[@＠]/, '')
      .replace(/[.。]$/, ''),
  )
  return domain && isDomainValid(domain) ? domain : null
}

/** The domain of an email address that is already clean. */
export const domainOf = (email: string): string => email.slice(email.lastIndexOf('@') + 1)

import { type CountryCode, getCountryCallingCode, parsePhoneNumberFromString } from 'libphonenumber-js/max'
import type { CleanAddress } from './email'
import { squeeze } from './name'

/** Shorter numbers are extensions and services, which nobody outside can call (common practice, no source). */
const SHORTEST = 6

/** Digits of any script as ASCII: Arabic, Devanagari, full-width and so on (Unicode, category Nd: ten in a row, zero first). */
function inAscii(text: string): string {
  return text.replace(/(?![0-9])\p{Nd}/gu, (digit) => {
    const code = digit.codePointAt(0) as number
    let zero = code
    while (/\p{Nd}/u.test(String.fromCodePoint(zero - 1)) && code - zero < 9) zero--
    return String(code - zero)
  })
}

/** Whether a number in E.164 is a mobile's, and so one person's own. Ofcom keeps 07700 900 for drama: mobiles that are nobody's. */
export function isMobile(e164: string): boolean {
  if (/^\+447[1-9]\d{8}$/.test(e164)) return true
  const type = parsePhoneNumberFromString(e164)?.getType()
  return type === 'MOBILE'
}

/**
 * The country of a number in E.164 (ISO 3166-1 alpha-2); null where it cannot be told. Numbers that are kept for fiction are no country's
 * for the library: those of the code 44 count as British, since the islands have prefixes of their own that it knows.
 */
export function phoneCountry(e164: string): string | null {
  const number = e164.startsWith('+') ? parsePhoneNumberFromString(e164) : undefined
  return number?.country ?? (number?.countryCallingCode === '44' ? 'GB' : null)
}

/** A number in E.164 as people of a region write it: in its national form there, with the code of its country elsewhere. */
export function phoneText(e164: string, region: string): string {
  const number = e164.startsWith('+') ? parsePhoneNumberFromString(e164) : undefined
  if (!number) return e164
  // A code may be of several countries; numbers kept for fiction are of none that can be told.
  const home = number.country === region || (!number.country && number.countryCallingCode === getCountryCallingCode(region as CountryCode))
  return home ? number.formatNational() : number.formatInternational()
}

/**
 * A phone number in E.164 (ITU-T E.164: + and at most 15 digits). A number without a country code belongs to `region`.
 * A number is usable when it is possible; numbers reserved for fiction are possible and never valid. Null where empty.
 */
export function cleanPhone(raw: string, region: string): CleanAddress | null {
  const text = inAscii(squeeze(raw)).replace(/^['’‘]+/, '')
  if (!/\d/.test(text)) return null
  if (/^[^1-9]*$/.test(text)) return { usable: false, value: text, normal: text, why: 'it is all zeros' }
  const number = parsePhoneNumberFromString(text.replace(/\(0\)/, ''), region as CountryCode)
  if (!number) return { usable: false, value: text, normal: text, why: 'it is not a phone number' }
  if (number.nationalNumber.length < SHORTEST) return { usable: false, value: text, normal: text, why: 'it has too few digits' }
  if (!number.isPossible()) return { usable: false, value: text, normal: text, why: 'it has too many or too few digits' }
  return { usable: true, value: number.number, normal: number.number }
}

import { type CountryCode, parsePhoneNumberFromString } from 'libphonenumber-js/max'
import type { CleanAddress } from './email'
import { squeeze } from './name'

/** Whether a number in E.164 is a mobile's, and so one person's own. Ofcom keeps 07700 900 for drama: mobiles that are nobody's. */
export function isMobile(e164: string): boolean {
  if (/^\+447[1-9]\d{8}$/.test(e164)) return true
  const type = parsePhoneNumberFromString(e164)?.getType()
  return type === 'MOBILE'
}

/**
 * A phone number in E.164 (ITU-T E.164: + and at most 15 digits). A number without a country code belongs to `region`.
 * A number is usable when it is possible; numbers reserved for fiction are possible and never valid. Null where empty.
 */
export function cleanPhone(raw: string, region: string): CleanAddress | null {
  const text = squeeze(raw)
  if (!/\d/.test(text)) return null
  const number = parsePhoneNumberFromString(text.replace(/\(0\)/, ''), region as CountryCode)
  if (!number) return { usable: false, value: text, normal: text, why: 'it is not a phone number' }
  if (!number.isPossible()) return { usable: false, value: text, normal: text, why: 'it has too many or too few digits' }
  return { usable: true, value: number.number, normal: number.number }
}

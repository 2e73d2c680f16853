import { countryCode } from '../clean/country'
import { countryOfPlace } from '../columns/country-places'
import type { PeopleColumns } from '../columns/people-columns'
import type { Address } from '../records/person-record'
import { CHANNELS } from '../records/channels'
import type { ScreenedRecord } from './kind'

const PHONE = CHANNELS.indexOf('phone')

/**
 * The country by whose rules an address is screened, as an ISO 3166-1 alpha-2 code: of a call the number's; of an email, a letter and a
 * direct message the person's, or else their organisation's. Null where it is not known; every rule covers such an address.
 */
export const countryOf = (record: ScreenedRecord, address: Address): string | null =>
  address.channel === 'phone' ? (address.country ?? null) : countryCode(record.country)

/** The same for a row of `columns.addresses`. */
export function countryAt(columns: PeopleColumns, row: number): string | null {
  const { channel, country } = columns.addresses.fields
  if (channel[row] === PHONE) return countryOfPlace(country[row])
  const code = columns.country.codeAt(columns.addresses.owner[row])
  return code < 0 ? null : columns.country.derived(countryCode)[code]
}

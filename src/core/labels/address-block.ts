import { countryName } from '../clean/country'
import formatter from '@fragaria/address-formatter'

/** Somebody a letter goes to, as a round froze them. */
export interface Addressee {
  name: string
  organisation: string | null
  street: string | null
  town: string | null
  postcode: string | null
  /** Where it goes abroad, the country (ISO 3166-1 alpha-2). */
  country?: string | null
}

/**
 * The lines of an address as they stand on an envelope, in the order of a country (ISO 3166-1 alpha-2). Where a part of the address would
 * get lost in that order, the parts stand one under the other. Post abroad goes by the order of its own country, whose name stands last, in
 * capitals (Universal Postal Union, Letter Post Manual, on addressing; from memory).
 */
export function addressBlock({ name, organisation, street, town, postcode, country: abroad }: Addressee, home: string): string[] {
  const country = abroad ?? home
  const parts = [street, town, postcode].filter((part): part is string => !!part?.trim())
  const laid = formatter
    .format({ road: street ?? undefined, city: town ?? undefined, postcode: postcode ?? undefined, countryCode: country })
    .split('\n')
    .map((line: string) => line.trim())
    .filter(Boolean)
  const whole = parts.every((part) => laid.some((line: string) => line.includes(part.trim())))
  return [
    name,
    ...(organisation && organisation !== name ? [organisation] : []),
    ...(whole ? laid : parts),
    ...(abroad ? [countryName(abroad).toUpperCase()] : []),
  ]
}

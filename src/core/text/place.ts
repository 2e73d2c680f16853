import { countryName } from '../clean/country'

/** A postal address in one line, with its country where it is abroad. */
export const placeText = (of: { street: string | null; town: string | null; postcode: string | null; country: string | null }): string =>
  [of.street, of.town, of.postcode, of.country && countryName(of.country)].filter(Boolean).join(', ')

import type { OwnerLives } from '../records/premises-record'
import type { CustomValues } from './custom'
import { fold } from './fold'
import { cleanName, nameKey } from './name'
import { organisationKey } from './organisation'
import { comparablePostal, type PostalParts } from './postal'
import { FIELD } from './standard-fields'

/** What an owner is found by: as a person by name and address, as an organisation by name. */
export interface OwnerKeys {
  name: string | null
  organisation: string | null
  address: string | null
}

/** The keys of an owner. One that is said to be an individual is no organisation, and the other way round. */
export function ownerKeys({
  owner,
  ownerKind,
  postal,
}: {
  owner: string | null
  ownerKind: string | null
  postal: PostalParts
}): OwnerKeys {
  if (owner === null) return { name: null, organisation: null, address: null }
  const person = ownerKind === null || ownerKind === 'individual' ? cleanName({ full: owner }) : null
  return {
    name: person && nameKey(person.given, person.family),
    organisation: ownerKind === 'individual' ? null : organisationKey(owner),
    address: comparablePostal(postal),
  }
}

/** Where the post of an owner goes, as it stands among the fields of premises. */
export const ownerPostal = (details: CustomValues): PostalParts => ({
  street: details[FIELD.ownerStreet] ?? null,
  town: details[FIELD.ownerTown] ?? null,
  postcode: details[FIELD.ownerPostcode] ?? null,
})

/** Premises, with their address and that of their owner in comparable form. */
interface Owned {
  address_key: string | null
  owner_address_key: string | null
  town: string | null
  county: string | null
}

/**
 * Where the owner lives, seen from the premises: there where both addresses are one in their comparable form; else by
 * country, town and county, as far as they are told. Null where that does not tell.
 */
export function ownerLives(premises: Owned, details: CustomValues, home: string): OwnerLives | null {
  const country = details[FIELD.ownerCountry]
  if (country !== undefined && fold(country) !== fold(details[FIELD.premisesCountry] ?? home)) return 'abroad'
  if (premises.owner_address_key !== null && premises.owner_address_key === premises.address_key) return 'there'
  const [town, county] = [details[FIELD.ownerTown], details[FIELD.ownerCounty]]
  if (town !== undefined && premises.town !== null && fold(town) === fold(premises.town)) return 'in the same town'
  if (county !== undefined && premises.county !== null) return fold(county) === fold(premises.county) ? 'in the same county' : 'elsewhere'
  return null
}

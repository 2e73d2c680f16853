import type { AddressTraits } from './address-state'
import type { OrganisationRecord } from './organisation-record'
import type { PremisesRecord } from './premises-record'
import type { SubjectRecord } from './subject-record'
import type { Channel, Way } from './channels'
import type { Relation } from './relations'
import type { Suppression } from './suppression'

/**
 * One address or number of a person. `suppressions` are those keyed on this very address or number, or on its domain.
 * `failedAt` is the instant of the contact that showed that nothing arrives there, unless a later one got through.
 */
export interface Address {
  id: number
  channel: Channel
  usable: boolean
  failedAt: number | null
  /** When it bounced for now since anything last arrived, in ascending order. */
  softAt?: readonly number[]
  /** The same number for two who have the same address or number: 52 bits of its key. 0 where it is not known. */
  key?: number
  /** Whose it is and what is known of it; a postal address has none of that. */
  traits?: AddressTraits
  /** Of a phone: the country of the number (ISO 3166-1 alpha-2), where it can be told. */
  country?: string | null
  /** Of email: when it was last checked. */
  checkedAt?: number | null
  suppressions: Suppression[]
}

/** A contact that took place. `at` is an instant in UTC milliseconds, `by` the id of who made it. */
export interface Contact {
  at: number
  channel: Way
  by: string
  /** The round it was made in, where it was in one and that is read. */
  round?: number | null
  /** What came of it, in a word of RESULTS or another. */
  result?: string | null
}

/** Who counts together: the people of one organisation, or those without one who have the same postal address. */
export const GROUPS = ['organisation', 'household'] as const
export type GroupOf = (typeof GROUPS)[number]

/** A contact of somebody else who counts together with a person. */
export interface ContactAround extends Contact {
  person: number
  of: GroupOf
}

/** A contact that an open round is still to make. `since` is when the round was released. */
export interface ContactToCome {
  round: number
  channel: Channel
  since: number
}

/** A seat in a released round of a list: on it, and clear or held back. */
export interface RoundSeat {
  list: number
  number: number
  clear: boolean
}

/**
 * Everything about one person that a criterion or a rule can ask about. A missing value is null and makes the
 * question that needs it *unknown*. Street, town, county and postcode are the person's own, or else their
 * organisation's.
 */
export interface PersonRecord extends SubjectRecord {
  given: string
  family: string
  role: string | null
  organisation: number | null
  /** That organisation; only the reference and what is told of a person ask. */
  employer?: OrganisationRecord | null
  /** The premises at their address. */
  premises: number | null
  /** Those premises; only the reference asks. */
  at?: PremisesRecord | null
  relation: Relation | null
  /** Their country, or else their organisation’s, as it is recorded. */
  country?: string | null
  /** Who alone may approach their organisation, where it is off limits to the others. */
  offLimits?: string | null
  tags: string[]
  addresses: Address[]
  contacts: Contact[]
  toCome: ContactToCome[]
  /** Suppressions of the person as such, or of their organisation. */
  suppressions: Suppression[]
  rounds: RoundSeat[]
  /** Contacts of others of their organisation or household; only where a rule asks about them. */
  around?: readonly ContactAround[]
  /** The latest change of a fact about them, in UTC milliseconds. */
  changedAt?: number | null
}

import type { AddressTraits } from './address-state'
import type { OrganisationRecord } from './organisation-record'
import type { PremisesRecord } from './premises-record'
import type { SubjectRecord } from './subject-record'

/** The four ways to reach somebody, in the order they are shown everywhere. */
export const CHANNELS = ['email', 'phone', 'post', 'direct'] as const
export type Channel = (typeof CHANNELS)[number]

/** The channels a round is screened and released on. */
export const SCREENED = ['email', 'phone', 'post'] as const
export type ScreenedChannel = (typeof SCREENED)[number]

/** The ways a contact can be made: by one of the channels, by meeting, or by answering in public. */
export const WAYS = [...CHANNELS, 'met', 'public reply'] as const
export type Way = (typeof WAYS)[number]

export const CHANNEL_NAME: Record<Way, string> = {
  email: 'email',
  phone: 'phone',
  post: 'post',
  direct: 'direct message',
  met: 'met',
  'public reply': 'public reply',
}

/** Which contacts count, in words: the four channels where nothing else was chosen. */
export function waysText(ways: readonly Way[] = CHANNELS): string {
  if (ways.length === WAYS.length) return 'any channel, met and public replies too'
  if (ways.length === CHANNELS.length && CHANNELS.every((c) => ways.includes(c))) return 'any channel'
  return WAYS.filter((way) => ways.includes(way))
    .map((way) => CHANNEL_NAME[way])
    .join(' or ')
}

/** How somebody stands to the organisation that keeps the directory. */
export const RELATIONS = [
  'prospect',
  'in talks',
  'customer',
  'former customer',
  'our own people',
  'supplier',
  'partner',
  'competitor',
] as const
export type Relation = (typeof RELATIONS)[number]

/** Why somebody must not be contacted. The first three are nobody's to let through. */
export const REASONS = ['opt-out', 'complaint', 'register', 'other'] as const
export type Reason = (typeof REASONS)[number]

export const REASON_NAME: Record<Reason, string> = {
  'opt-out': 'asked us to stop',
  complaint: 'complained',
  register: 'do-not-call register',
  other: 'another reason',
}

/** What a suppression is keyed on. */
export const SCOPES = ['person', 'email', 'phone', 'domain', 'post', 'organisation'] as const
export type Scope = (typeof SCOPES)[number]

export const SCOPE_NAME: Record<Scope, string> = {
  person: 'person',
  email: 'email address',
  phone: 'phone number',
  domain: 'email domain',
  post: 'postal address',
  organisation: 'organisation',
}

/** One suppression in force or lifted. Instants are UTC milliseconds; `until` is exclusive, null means for good. */
export interface Suppression {
  id: number
  reason: Reason
  channels: Channel[]
  since: number
  until: number | null
}

/**
 * One address or number of a person. `suppressions` are those keyed on this very address or number, or on its domain.
 * `failedAt` is the instant of the contact that showed that nothing arrives there, unless a later one got through.
 */
export interface Address {
  id: number
  channel: ScreenedChannel
  usable: boolean
  failedAt: number | null
  /** Whose it is and what is known of it; a postal address has none of that. */
  traits?: AddressTraits
  /** Of email: when it was last checked. */
  checkedAt?: number | null
  suppressions: Suppression[]
}

/** A contact that took place. `at` is an instant in UTC milliseconds, `by` the id of who made it. */
export interface Contact {
  at: number
  channel: Way
  by: string
  /** What came of it, in a word of RESULTS or another. */
  result?: string | null
}

/** A contact that an open round is still to make. `since` is when the round was released. */
export interface ContactToCome {
  round: number
  channel: ScreenedChannel
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
  tags: string[]
  addresses: Address[]
  contacts: Contact[]
  toCome: ContactToCome[]
  /** Suppressions of the person as such, or of their organisation. */
  suppressions: Suppression[]
  rounds: RoundSeat[]
  /** The latest change of a fact about them, in UTC milliseconds. */
  changedAt?: number | null
}

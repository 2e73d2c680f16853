/** The four ways to reach somebody, in the order they are shown everywhere. */
export const CHANNELS = ['email', 'phone', 'post', 'direct'] as const
export type Channel = (typeof CHANNELS)[number]

/** The channels a round is screened and released on. */
export const SCREENED = ['email', 'phone', 'post'] as const
export type ScreenedChannel = (typeof SCREENED)[number]

export const CHANNEL_NAME: Record<Channel, string> = {
  email: 'e-mail',
  phone: 'phone',
  post: 'post',
  direct: 'direct message',
}

/** How somebody stands to the organisation that keeps the directory. */
export const RELATIONS = ['prospect', 'customer', 'former customer', 'our own people', 'supplier', 'partner'] as const
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

/** One suppression in force or lifted. Instants are UTC milliseconds; `until` is exclusive, null means for good. */
export interface Suppression {
  id: number
  reason: Reason
  channels: Channel[]
  since: number
  until: number | null
}

/** One address or number of a person. `suppressions` are those keyed on this very address or number. */
export interface Address {
  id: number
  channel: ScreenedChannel
  usable: boolean
  suppressions: Suppression[]
}

/** A contact that took place. `at` is an instant in UTC milliseconds, `by` the id of who made it. */
export interface Contact {
  at: number
  channel: Channel
  by: string
}

/** A contact that an open round is still to make. `since` is when the round was released. */
export interface ContactToCome {
  round: number
  channel: ScreenedChannel
  since: number
}

/**
 * Everything about one person that a criterion or a rule can ask about. A missing value is null and makes the
 * question that needs it *unknown*. Town and postcode are the person's own, or else their organisation's.
 */
export interface PersonRecord {
  id: number
  role: string | null
  organisation: number | null
  town: string | null
  postcode: string | null
  relation: Relation | null
  addresses: Address[]
  contacts: Contact[]
  toCome: ContactToCome[]
  /** Suppressions of the person as such. */
  suppressions: Suppression[]
  batches: number[]
  /** Folded family name, given name and id: the order in which people are shown. */
  sortKey: string
}

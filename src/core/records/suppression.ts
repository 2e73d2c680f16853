import type { Channel } from './channels'

/** Why somebody must not be contacted. The first three are nobody's to let through. Their places are codes while the application runs. */
export const REASONS = [
  'opt-out',
  'complaint',
  'register',
  'bounce',
  'wrong number',
  'returned post',
  'deceased or moved',
  'customer',
  'competitor',
  'our own',
  'agreed pause',
  'other',
] as const

export type Reason = (typeof REASONS)[number]

/** What nobody can let through: what somebody asked for or the law does. The database holds the same. */
export const FINAL: readonly Reason[] = ['opt-out', 'complaint', 'register']
/** Whether nobody can be let through against a suppression of this reason: an opt-out, a complaint or a register. */
export const isFinalReason = (reason: Reason): boolean => FINAL.includes(reason)

export const REASON_NAME: Record<Reason, string> = {
  'opt-out': 'asked us to stop',
  complaint: 'complained',
  register: 'do-not-call register',
  bounce: 'bounced',
  'wrong number': 'wrong number',
  'returned post': 'post came back',
  'deceased or moved': 'died or moved away',
  customer: 'customer',
  competitor: 'competitor',
  'our own': 'one of our own',
  'agreed pause': 'agreed pause',
  other: 'another reason',
}

/** What a suppression is keyed on. */
export const SCOPES = ['person', 'household', 'email', 'phone', 'domain', 'post', 'direct', 'organisation'] as const

export type Scope = (typeof SCOPES)[number]

export const SCOPE_NAME: Record<Scope, string> = {
  person: 'person',
  household: 'household',
  email: 'email address',
  phone: 'phone number',
  domain: 'email domain',
  post: 'postal address',
  direct: 'profile link or handle',
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

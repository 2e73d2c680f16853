import type { Channel } from './channels'

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
export const SCOPES = ['person', 'email', 'phone', 'domain', 'post', 'direct', 'organisation'] as const

export type Scope = (typeof SCOPES)[number]

export const SCOPE_NAME: Record<Scope, string> = {
  person: 'person',
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

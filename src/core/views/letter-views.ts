import type { LetterGap } from '../rounds/letter'
import type { Outcome } from '../checks/plan'
import type { RoundState } from './round-views'

/** What a letter by email consists of. */
export interface Letter {
  subject: string
  body: string
  senderName: string
  senderEmail: string
  address: string
}

/** The emails of a round: their letter, and how far they are. Instants are ISO 8601 strings in UTC. */
export interface LetterPage {
  id: number
  called: string
  listId: number
  list: string
  state: RoundState
  hasEarlier: boolean
  check: { outcome: Outcome; ended: boolean } | null
  /** Contacts of any channel that are still to be made. */
  open: number
  letter: Letter
  /** When it was saved last, and by whom; null where nobody wrote one. */
  saved: { at: string; by: string } | null
  mayWrite: boolean
  /** Who downloaded the email file of this round. */
  takenBy: { name: string; at: string }[]
  /** The emails have begun to leave. */
  begun: boolean
}

/** A letter held against everybody who would get it. */
export interface LetterCheck {
  /** What cannot be read of it. */
  troubles: string[]
  people: number
  /** Of a released round: how many of them are still to be contacted; null while it is being built. */
  due: number | null
  gaps: LetterGap[]
  /** As one of them gets it, counted from 0. */
  shown: { n: number; person: number; name: string; to: string | null; subject: string; text: string; html: string } | null
}

export const MESSAGE_STATES = ['accepted', 'refused', 'given up', 'left out', 'waiting'] as const
export type MessageBecame = (typeof MESSAGE_STATES)[number]

/** The account of a round's emails: everybody is in exactly one of its states. */
export interface MailAccount {
  state: 'running' | 'paused' | 'done' | 'failed'
  note: string | null
  by: string
  begunAt: string
  endedAt: string | null
  perMinute: number
  total: number
  counts: Record<MessageBecame, number>
  /** Whom it did not reach, with why; the first of them. */
  missed: { person: number; name: string; became: MessageBecame; why: string }[]
}

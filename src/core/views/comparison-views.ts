import type { Channel } from '../records/channels'

/** A comparison of suppressions with another organisation. Instants are ISO 8601 strings in UTC. */
export interface ComparisonView {
  id: number
  name: string
  by: string
  at: string
  /** How many addresses and numbers each side brought; null where that is not known yet. */
  ours: number | null
  theirs: number | null
  /** Which of our files can be downloaded. */
  offer: boolean
  answer: boolean
  /** Which of their files came. */
  cameOffer: boolean
  cameAnswer: boolean
  /** How many are shared; null until both answers are there. */
  shared: number | null
  doneAt: string | null
  failed: string | null
}

/** One address or number that both must not contact. */
export interface SharedAddress {
  channel: Channel
  value: string
  person: number
  name: string
}

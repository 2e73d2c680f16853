import type { Counts, Outcome, PartedBy, RoundResults } from '../rounds/results'
import type { RoundState } from './round-views'

/** What is kept of a round when it is closed. */
export interface Closing {
  counts: Counts
  ways: RoundResults['ways']
}

/** What came of a round: the account of everybody who was released, and the rounds of its list before it. Instants are ISO 8601 strings in UTC. */
export interface ResultsPage {
  id: number
  number: number
  listId: number
  list: string
  state: RoundState
  releasedAt: string
  closedAt: string | null
  by: string
  mayClose: boolean
  /** Whether the account may be had as a file, which is for those who may use the list. */
  mayTake: boolean
  results: RoundResults
  /** What it had come to when it was closed; null while it is not, and in rounds that were closed before this was kept. */
  closing: Closing | null
  before: ({ id: number; number: number; releasedAt: string } & Closing)[]
  check: { passed: boolean; ended: boolean } | null
  hasEarlier: boolean
}

/** A figure of the results, by which its people are asked for: of all, of one way of contact, or of one part. */
export type ResultsView = {
  of: Outcome | 'released' | 'contacted'
  by?: PartedBy | 'way'
  key?: string
}

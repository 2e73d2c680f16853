import type { Counts, Outcome, PartedBy, RoundResults } from '../rounds/results'
import type { RoundState } from './round-views'

/** What is kept of a round when it is closed. */
export interface Closing {
  counts: Counts
  optOuts: number
  ways: RoundResults['ways']
}

/** What every page of results says of its round. Instants are ISO 8601 strings in UTC. */
export interface ResultsHead {
  id: number
  listId: number
  list: string
  state: RoundState
  releasedAt: string
  closedAt: string | null
  by: string
  mayClose: boolean
  /** Whether the account may be had as a file, which is for those who may use the list. */
  mayTake: boolean
}

/** What came of a round: the account of everybody who was released, and the rounds of its list before it. */
export interface ResultsPage extends ResultsHead {
  /** "4", or "4, supplement 1". */
  called: string
  results: RoundResults
  /** What it had come to when it was closed; null while it is not, and in rounds that were closed before this was kept. */
  closing: Closing | null
  /** The supplements that the figures of a round add up; of a supplement, its round. */
  supplements: { id: number; called: string; people: number }[]
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

/** A released round of a list as a point of its trend. Shares are 0 to 1. */
export interface TrendRow {
  id: number
  number: number
  releasedAt: string
  state: RoundState
  /** How many were on the list, and clear by any channel. */
  listed: number
  clear: number
  /** Who came onto the list and left it since the round before; null in a first round. */
  joined: number | null
  left: number | null
  /** The share that fits by its fit check; null without one. */
  fit: number | null
  contacted: number
  /** Answered, or reached without an answer. */
  reached: number
  answered: number
  optOuts: number
}

export interface TrendPage {
  listId: number
  list: string
  /** The oldest first. */
  rounds: TrendRow[]
  /** Whether there are older ones that are not shown. */
  more: boolean
}

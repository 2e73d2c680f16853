import type { LetterChoice, Recipient } from '../rounds/letter-choice'
import type { LetterFigures } from '../rounds/premises-letters'
import type { PremisesRule } from '../screening/premises'
import type { LetterClosing, LetterPart, LetterResults, LetterStand } from '../rounds/letter-results'
import type { ResultsHead } from './result-views'
import type { RoundHead } from './round-views'

/** Plain shapes that the screens of rounds of premises are drawn from. Instants are ISO 8601 strings in UTC, days YYYY-MM-DD. */

/** What became of a letter that was released. */
export const LETTER_OUTCOMES = ['stopped', 'came back', 'answered', 'asked us to stop'] as const
export type LetterOutcome = (typeof LETTER_OUTCOMES)[number]

export interface PremisesRoundPage extends RoundHead {
  choice: LetterChoice
  file: { name: string; rows: number; leftOut: number; sha256: string; withdrawn: boolean; takenBy: { name: string; at: string }[] } | null
  /** The list's released round before it. */
  earlier: { id: number; number: number } | null
}

/** What became of the letters of a released round: they add up to the letters. */
export interface LettersStand {
  stopped: number
  toPost: number
  /** Posted, and nothing heard. */
  posted: number
  'came back': number
  answered: number
  'asked us to stop': number
  /** The first and the last day of posting. */
  days: [string, string] | null
}

export interface LetterRow {
  /** Null before the release. */
  number: number | null
  addressee: string
  /** The address in one line. */
  place: string
  about: string
  premises: number
  postedOn: string | null
  outcome: LetterOutcome | null
  /** Why it is left out, of a letter that was not posted yet. */
  stopped: string | null
}

export interface HeldPremisesRow {
  id: number
  name: string
  rule: string
  detail: string | null
}

export type PremisesRoundView = { tab: 'letters' | 'held' | 'joined' | 'left' } | { tab: 'rule'; rule: PremisesRule }

export interface PremisesRoundAccount {
  figures: LetterFigures
  /** What the other choice would come to: how many letters, how many abroad, and how many about several premises. */
  other: ({ to: Recipient } & Pick<LetterFigures, 'clear' | 'letters' | 'abroad' | 'several'>) | null
  /** Tells one state of the list and the choice from another; null once released. */
  print: string | null
  /** Against the round before: who was on it, joined, left, and is on now. */
  since: { round: number; before: number; joined: number; left: number; now: number } | null
  stand: LettersStand | null
  /** How many letters or premises are behind the tab, and a page of them. */
  total: number
  letters: LetterRow[]
  held: HeldPremisesRow[]
}

/** A figure of the results of letters, by which its letters are asked for: of all, or of one part. */
export type LetterResultsView = { of: LetterStand | 'released' | 'posted'; by?: LetterPart; key?: string }

/** What came of a round of letters, and the rounds of its list before it. */
export interface LetterResultsPage extends ResultsHead {
  number: number
  results: LetterResults
  /** What it had come to when it was closed; null while it is not, and in rounds that were closed before this was kept. */
  closing: LetterClosing | null
  before: ({ id: number; number: number; releasedAt: string } & LetterClosing)[]
  hasEarlier: boolean
}

import type { Agreement } from '../checks/agreement'
import type { UnfitReason, Verdict } from '../checks/patterns'
import type { CheckPlan, Outcome } from '../checks/plan'
import type { Line } from '../lists/line'
import type { RoundState } from './round-views'

/** Plain shapes that the screen of fit checks is drawn from. Instants are ISO 8601 strings in UTC, shares 0 to 1. */

export interface FitStratumView {
  /** Which line let them in, or counted an unknown of theirs as yes. */
  title: string
  detail: string | null
  size: number
  seen: number
  fit: number
  low: number
  high: number
}

/** Somebody to be judged, with what a verdict rests on. */
export interface FitCard {
  person: number
  /** Their place in the sample, from 1. */
  place: number
  name: string
  facts: { name: string; value: string | null }[]
  came: string
}

export interface FitVerdictView {
  person: number
  name: string
  under: string
  verdict: Verdict
  reason: UnfitReason | null
  note: string | null
  by: string
  mine: boolean
  at: string
  /** The round of an earlier check it was said in, where nothing that it rests on changed since. */
  fromRound: number | null
  /** What another colleague said of them otherwise. */
  otherwise: { by: string; verdict: Verdict }[]
}

export interface FitCheckView {
  id: number
  number: number
  plan: CheckPlan
  edition: number
  drawnAt: string
  drawnBy: string
  sample: number
  strata: FitStratumView[]
  share: number | null
  low: number
  high: number
  /** Of those who are clear, how many belong to strata of which somebody was judged. */
  covers: number
  outcome: Outcome
  ended: { at: string; by: string } | null
  tally: Record<Verdict, number>
  /** How many are still to be seen; how many of the sample are in the directory no more. */
  toSee: number
  gone: number
  /** The ones to judge next, and how many a second colleague could still judge beside the first. */
  cards: FitCard[]
  secondToSee: number
  seen: FitVerdictView[]
  agreement: (Agreement & { who: [string, string] })[]
  /** The list, the rules or who was let through changed since it was drawn. */
  changed: boolean
}

export interface FitPage {
  round: number
  called: string
  list: string
  listId: number
  state: RoundState
  /** How many are clear now; null while that cannot be said. */
  clear: number | null
  mayDraw: boolean
  mayJudge: boolean
  mayEdit: boolean
  check: FitCheckView | null
}

/** Something that those who do not belong share, with the line that would take it out. */
export interface FitPatternView {
  id: string
  title: string
  label: string
  /** The line in words, and whether it is a new one or one that would be changed. */
  sentence: string
  changes: boolean
  line: Line
  fit: number
  unfit: number
  allFit: number
  allUnfit: number
  chance: number
  on: number
  after: number
}

/** Where somebody of a sample stands besides the list: other lists they are on, and open rounds they are still to be contacted in. */
export interface Touched {
  lists: { id: number; name: string }[]
  rounds: { id: number; called: string; list: string }[]
}

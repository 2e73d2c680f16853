import type { ResultsView } from './result-views'
import type { Subject } from '../records/subject'

/** What a list can be made of in one step. */
export type These =
  | { of: Subject; ids: number[] }
  | { of: Subject; find: string }
  /** Whoever came in with a file, or is in it. */
  | { batch: number }
  | { enquiry: number }
  /** Whoever decides at the organisations of a list. */
  | { deciders: number }
  /** The people behind a figure of a round's results. */
  | { round: number; results: ResultsView }
  /** Everybody in a territory. */
  | { territory: number }
  /** Everybody in an area. */
  | { area: number; of: Subject }

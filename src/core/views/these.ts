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
  /** Everybody in an area. */
  | { area: number; of: Subject }

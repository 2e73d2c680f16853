import type { Asks } from '../changes/asks'

/** What became of a change: nobody has it, somebody took it, it is handled, or set aside. */
export const CHANGE_STATES = ['open', 'taken', 'handled', 'set aside'] as const
export type ChangeState = (typeof CHANGE_STATES)[number]

/** A change of a record, as far as criteria ask of it. It happened after one day and by another (YYYY-MM-DD); `after` is null where it was never seen otherwise. */
export interface RecordChange {
  kind: number
  asks: Exclude<Asks, 'lead'>
  after: string | null
  by: string
  /** When we learned of it, in UTC milliseconds. */
  learnedAt: number
  state: ChangeState
  /** The names of whoever reported it, with *and* between them. */
  sources: string
  /** What was reported, or the new role or organisation; null where there are no words. */
  text: string | null
}

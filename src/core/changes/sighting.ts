/** A calendar day as YYYY-MM-DD; such days are compared as texts. */
export type Day = string

/**
 * One report of what a field of a record was on a day. `value` is its comparable form; '' where the field is known to be empty, as
 * the organisation of somebody who left. `entry` is the ledger entry that holds the report.
 */
export interface Sighting {
  entry: number
  value: string
  day: Day
  /** The source says that it became so on this very day, not only that it was so. */
  stated: boolean
  /** Whoever says so: two reports of one source do not confirm each other. */
  source: string
  /** What it was when the record came in: on that day whatever else is said of it came after. */
  began?: true
}

/** When something happened: after one day and no later than another. `after` is null where it was never seen otherwise. */
export interface Interval {
  after: Day | null
  by: Day
}

/** How sure a change is. */
export const SURE = ['stated', 'likely', 'to be confirmed'] as const
export type Sure = (typeof SURE)[number]

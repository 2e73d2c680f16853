import type { RecordChange } from './record-change'
import type { CustomValues } from '../clean/custom'

/** What a record of any subject has. A missing value is null and makes the question that needs it *unknown*. */
export interface SubjectRecord {
  id: number
  county: string | null
  town: string | null
  postcode: string | null
  /** House number and street as they are written: *12 Mill Lane*. */
  street: string | null
  /** Fields by their number, those that every team has and the team's own; what is missing is not there. */
  custom: CustomValues
  batches: number[]
  /** Its changes that count; only where something asks of them. */
  changes?: readonly RecordChange[]
  /** The order in which records are shown. */
  sortKey: string
}

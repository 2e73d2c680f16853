import type { PremisesRecord } from './premises-record'
import type { SubjectRecord } from './subject-record'

/** Everything about one organisation that a criterion can ask about. */
export interface OrganisationRecord extends SubjectRecord {
  name: string
  industry: string | null
  /** How many work there, as the organisation says. */
  headCount: number | null
  /** Domain of its website. */
  domain: string | null
  /** The premises at its address. */
  premises: number | null
  /** Those premises; only the reference asks. */
  at?: PremisesRecord | null
  /** How many of its people are in the directory; only the reference asks. */
  people?: number
}

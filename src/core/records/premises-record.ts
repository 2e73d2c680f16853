import type { OwnerKind, Position } from '../clean/premises'
import type { SubjectRecord } from './subject-record'

/** Where owners live, seen from what they own (common practice, no source). */
export const OWNER_LIVES = ['there', 'in the same town', 'in the same county', 'elsewhere', 'abroad'] as const
export type OwnerLives = (typeof OWNER_LIVES)[number]

/** Everything about one building or site that a criterion can ask about. */
export interface PremisesRecord extends SubjectRecord {
  name: string
  kind: string | null
  position: Position | null
  /** Square metres. */
  roofArea: number | null
  yearBuilt: number | null
  ownerKind: OwnerKind | null
  /** What tells one owner from another: the comparable form of their name and of where they live. */
  ownerKey: string | null
  ownerLives: OwnerLives | null
  ownerPerson: number | null
  ownerOrganisation: number | null
  /** Dates on which the owner took over each of what is theirs, null where it is not known; only the reference asks. */
  holdings?: (string | null)[]
}

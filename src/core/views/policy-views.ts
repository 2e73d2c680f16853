import type { Rule } from '../screening/rules'
import type { PeoplePage } from './record-views'

/** Plain shapes that the pages of policies are drawn from. Instants are ISO 8601 strings in UTC. */

export interface PolicySummary {
  id: number
  name: string
  isDefault: boolean
  edition: number
  /** Names of the rules that are on, in their order. */
  rules: string[]
  lists: number
  savedAt: string
  /** Who saved the newest edition; null for the one that came with the application. */
  by: string | null
}

export interface PolicyEditionView {
  number: number
  at: string
  by: string | null
  why: string | null
  rules: Rule[]
}

export interface PolicyPage {
  id: number
  name: string
  isDefault: boolean
  archived: boolean
  mayEdit: boolean
  /** The newest first. */
  editions: PolicyEditionView[]
  /** Lists that chose it, as far as this person may see them; and those that have it because they chose none. */
  lists: { id: number; name: string }[]
  /** Lists of people this person may try it on. */
  tryOn: { id: number; name: string }[]
  /** When and where its notes are told. */
  moment: { asOf: number; zone: string }
  /** The register that is in, which its rule is filled in with. */
  register: { version: string | null; goodFor: number }
}

/** What a list would be by some rules beside others: how many would be held back that are clear, and clear that are held back. */
export interface PolicyTrial {
  clear: { before: number; after: number }
  held: number
  freed: number
  /** Those who come out differently, on the side that was asked for. */
  page: PeoplePage
}

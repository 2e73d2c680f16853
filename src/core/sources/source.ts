import type { Channel } from '../records/channels'

/** What is asked of a source that is searched: words in any order, and any of some sub-kinds and districts. */
export interface Search {
  words: string
  subKinds: string[]
  districts: string[]
}

/** One thing found, before it is paid for: enough to know it by, and by which channels it could be reached. */
export interface Found {
  /** The source’s own key for it. */
  key: string
  name: string
  kind: string
  subKind: string
  district: string
  postcode: string
  has: Channel[]
}

/** A page of what was found. `total` is how many there are; a search gives no more than `most` of them, however it is paged. */
export interface FoundPage {
  total: number
  most: number
  items: Found[]
  /** What to ask for the next page with; null on the last. */
  next: string | null
  subKinds: [name: string, count: number][]
  districts: [name: string, count: number][]
}

/** All a source knows of one thing, by the titles its columns have in a file. */
export interface Fetched {
  key: string
  fields: Record<string, string>
}

/**
 * Somebody whose gaps are to be filled, by whatever is known. `ref` comes back with the answer. `wants` are the titles of what
 * is lacking: a source answers with these alone, and has found nothing where it has none of them. Without it all is wanted.
 */
export interface Gap {
  ref: string
  email?: string
  profile?: string
  name?: string
  organisation?: string
  wants?: string[]
}

export const FILL_OUTCOMES = ['verified', 'uncertain', 'nothing'] as const
/** What came of asking about somebody: found and verified, found but uncertain, or nothing found. */
export type FillOutcome = (typeof FILL_OUTCOMES)[number]

export interface Filled {
  ref: string
  outcome: FillOutcome
  fields: Record<string, string>
}

export const CHECK_STATES = ['verified', 'uncertain', 'bad'] as const
/** What a check says of an e-mail address: it takes mail; its domain takes mail for any name, so nobody knows; it takes none. */
export type CheckState = (typeof CHECK_STATES)[number]

export interface Checked {
  email: string
  state: CheckState
  why: string
}

/** What a source takes, in minor units of the currency, by what is asked and what came of it. */
export interface Prices {
  currency: string
  fetch: number
  fill: Record<FillOutcome, number>
  check: Record<CheckState, number>
}

/** A source that is searched and fetched from. Calls throw SourceTrouble where the source did not answer. */
export interface SearchedSource {
  prices(): Promise<Prices>
  find(search: Search, next: string | null): Promise<FoundPage>
  fetch(keys: string[]): Promise<Fetched[]>
}

/** A source that fills gaps and checks addresses. */
export interface FillingSource {
  prices(): Promise<Prices>
  fill(gaps: Gap[]): Promise<Filled[]>
  check(emails: string[]): Promise<Checked[]>
}

/** Sources there are, by the name they are asked under. */
export const SOURCES = {
  directory: { name: 'Business directory', what: 'organisations of the county with their kind, address, and who to ask for' },
  premises: { name: 'Premises register', what: 'buildings by kind and district, with their owners and how large their roofs are' },
  checker: { name: 'Address checker', what: 'whether e-mail addresses take mail, and who is behind an address or a profile' },
} as const
export type SourceName = keyof typeof SOURCES
export const SEARCHED_SOURCES = ['directory', 'premises'] as const satisfies SourceName[]
export type SearchedName = (typeof SEARCHED_SOURCES)[number]

import type { Channel, ScreenedChannel } from '../columns/person-record'
import type { Line } from '../lists/line'

/** Plain shapes that screens are drawn from. Instants are ISO 8601 strings in UTC. */

export type Reach = Record<ScreenedChannel, 'open' | 'closed' | 'none'>

/** One person as a row of any table of people. */
export interface PersonView {
  id: number
  name: string
  role: string | null
  organisation: string | null
  organisationId: number | null
  place: string | null
  reach: Reach
  /** Contacts of the last 365 days: days ago and channel. */
  strip: [daysAgo: number, channel: Channel][]
  last: { at: string; channel: Channel; result: string | null; by: string } | null
  /** Why they stand in this tab, where there is something to tell: a headline and what it rests on. */
  because?: { title: string; detail: string }
}

export interface PeoplePage {
  total: number
  people: PersonView[]
  /** The answer is as of then, because the database could not be heard since. */
  behind: string | null
}

export interface ListView {
  id: number
  name: string
  shared: boolean
  mine: boolean
  owner: string
  edition: number
  savedBy: string
  savedAt: string
  lines: Line[]
}

export interface RoundSummary {
  id: number
  number: number
  state: RoundState
  at: string
}

export type RoundState = 'being built' | 'released' | 'closed'

/** One dated item of the ledger of a record. */
export interface LedgerItem {
  id: number
  at: string
  kind: string
  title: string
  detail: string | null
  by: string
}

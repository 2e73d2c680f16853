import type { CustomField } from '../clean/custom'
import type { Stand } from '../screening/stand'
import type { Channel, Way } from '../records/channels'
import type { Reason, Scope } from '../records/suppression'

/** Plain shapes that people, organisations and premises are drawn from. Instants are ISO 8601 strings in UTC. */

export type Reach = Record<Channel, 'open' | 'closed' | 'none'>

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
  strip: [daysAgo: number, channel: Way][]
  last: { at: string; channel: Way; result: string | null; by: string } | null
  /** Why they stand in this tab, where there is something to tell: a headline and what it rests on. */
  because?: { title: string; detail: string }
  /** The first sentence that a letter, an email or a call to them can begin with. */
  opener?: string
  /** What somebody should know of them before they are contacted. */
  marks?: string[]
  /** In a round that is being built: channels somebody let them through by, and those somebody still may. */
  through?: { let: { channel: Channel; reason: string; by: string }[]; may: Channel[] }
}

export interface PeoplePage {
  total: number
  people: PersonView[]
  /** The answer is as of then, because the database could not be heard since. */
  behind: string | null
}

/** One dated item of the ledger of a record. */
export interface LedgerItem {
  id: number
  at: string
  kind: string
  title: string
  detail: string | null
  by: string
}

export interface OrganisationView {
  id: number
  name: string
  industry: string | null
  town: string | null
  people: number
  lastAt: string | null
}

export interface PersonPage {
  view: PersonView
  state: string
  relation: string | null
  tags: string[]
  /** Every field of the team's own, with what this person has in it. */
  custom: { field: CustomField; value: string | null }[]
  outsideId: string | null
  postal: string | null
  addresses: {
    id: number
    channel: Channel
    value: string
    usable: boolean
    why: string | null /** Of an email: whose it looks to be. */
    about: string | null /** What checks or calls have shown of it, and when. */
    state: {
      is: string
      at: string | null
      why: string | null /** How many others of the organisation have it. */
      shared: number
      old: boolean
    } | null
    suppressed: string | null
  }[]
  suppressions: {
    id: number
    reason: Reason
    scope: Scope
    who: string
    channels: Channel[]
    since: string
    until: string | null
    word: string
    by: string /** How it stands: an ended one holds nobody back. */
    stand: Stand
    lifted: { at: string; word: string; by: string } | null
  }[]
  lists: { list: string; listId: number; round: string; roundId: number; heldBack: boolean }[]
  ledger: LedgerItem[]
  mergedHere: { id: number; name: string }[]
  mergedInto: { id: number; name: string } | null
  /** The rows of files they were in, as they came. */
  came: { batch: number; file: string; at: string; row: number; cells: { title: string; cell: string }[] }[]
}

/** Premises as a row of a table. */
export interface PremisesView {
  id: number
  name: string
  kind: string | null
  postal: string
  roofArea: number | null
  owner: string | null
  position: { lat: number; lon: number } | null
}

export interface PremisesPage extends PremisesView {
  state: string
  outsideId: string | null
  county: string | null
  yearBuilt: number | null
  ownerKind: string | null
  /** Fields by number that have a value, in words. */
  fields: { name: string; value: string }[]
  ledger: LedgerItem[]
}

export interface OrganisationPage extends OrganisationView {
  postal: string | null
  county: string | null
  headCount: number | null
  website: string | null
  /** Fields by number that have a value, in words. */
  fields: { name: string; value: string }[]
  /** Other organisations with the same website, or whose name begins with its whole name. */
  branches: { id: number; name: string }[]
  staff: PersonView[]
  ledger: LedgerItem[]
}

/** What merging two records takes over, and where they differ and the one that is kept stays as it is. */
export interface MergeAccount {
  keep: { id: number; name: string }
  merge: { id: number; name: string }
  takenOver: { field: string; value: string }[]
  stays: { field: string; kept: string; other: string }[]
  entries: number
  contacts: number
}

/** The last search for doubles, and the pairs that wait for somebody to decide. */
export interface DoublesPage {
  search: {
    state: 'queued' | 'running' | 'done' | 'failed'
    done: number
    people: number | null
    compared: number | null
    at: string
    by: string
    error: string | null
  } | null
  /** Pairs nobody has decided about; how many of them are as good as sure; and what was decided. */
  open: number
  sure: number
  same: number
  different: number
  pairs: {
    a: number
    b: number
    chance: number
    aName: string
    bName: string
    aOrganisation: string | null
    bOrganisation: string | null
  }[]
}

/** One of two records that may be one, field by field. */
export interface PairSide {
  id: number
  name: string
  live: boolean
  fields: Record<string, string>
  entries: number
}

export interface PairView {
  a: PairSide
  b: PairSide
  chance: number
  decided: 'same' | 'different' | null
  /** Field by field how far they agree, in words and from 0 to 1; null where either does not have it. */
  agrees: { field: string; level: string | null; rank: number | null }[]
}

/** What came of taking a merge back: the fields that stay as they are, because they were worked on since. */
export interface PartedAccount {
  stays: { field: string; now: string }[]
}

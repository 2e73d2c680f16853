import type { ContactRow, PersonRow, Refusal, SuppressionRow } from '../clean/rows'
import type { Channel, Reason, ScreenedChannel } from '../columns/person-record'
import type { Phrase } from '../criteria/kind'
import type { Line } from '../lists/line'
import type { BatchKind, Mapping } from '../match/columns'
import type { RequalifyFigures } from '../rounds/requalify'
import type { ScreeningFigures } from '../screening/account'
import type { Rule } from '../screening/rules'

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

export interface RoundPage {
  id: number
  number: number
  listId: number
  list: string
  state: RoundState
  startedAt: string
  releasedAt: string | null
  closedAt: string | null
  by: string
  edition: number
  mayRelease: boolean
  rules: { rule: Rule; phrases: Phrase[]; note: string; optional: boolean }[]
  files: { channel: string; name: string; rows: number; sha256: string }[]
  requalified: RequalifyFigures | null
  hasEarlier: boolean
  toCome: { open: number; all: number }
}

export interface RoundAccount {
  figures: ScreeningFigures
  page: PeoplePage
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
  outsideId: string | null
  postal: string | null
  addresses: { id: number; channel: Channel; value: string; usable: boolean; why: string | null; suppressed: string | null }[]
  suppressions: { id: number; reason: Reason; channels: Channel[]; since: string; until: string | null; word: string; by: string; lifted: { at: string; word: string; by: string } | null }[]
  lists: { list: string; listId: number; round: number; roundId: number; heldBack: boolean }[]
  ledger: LedgerItem[]
}

export interface OrganisationPage extends OrganisationView {
  postal: string | null
  staff: PersonView[]
}

export interface RoundIndexRow {
  id: number
  number: number
  listId: number
  list: string
  state: RoundState
  at: string
  by: string
  listed: number | null
  clear: number | null
  toCome: number
}

export interface ListIndexRow {
  id: number
  name: string
  shared: boolean
  mine: boolean
  owner: string
  edition: number
  savedAt: string
  balance: number | null
  lastRound: { id: number; number: number; state: RoundState; at: string } | null
}

/** What can become of a row of a file. */
export const OUTCOMES = ['new', 'same', 'updated', 'in doubt', 'refused'] as const
export type Outcome = (typeof OUTCOMES)[number]

export interface BatchIndexRow {
  id: number
  kind: BatchKind
  fileName: string
  state: Batch['state']
  at: string
  by: string
  rows: number | null
  done: number
  counts: Partial<Record<Outcome, number>>
}

export interface BatchAccount {
  batch: Omit<Batch, 'created_at' | 'finished_at'> & { at: string }
  counts: Record<Outcome, number>
}

export interface BatchRowView {
  row: number
  raw: string[]
  reason: string | null
  person: { id: number; name: string } | null
  candidates: { id: number; name: string; organisation: string | null }[]
}

export interface SuppressionView {
  id: number
  reason: Reason
  channels: Channel[]
  who: string
  personId: number | null
  since: string
  until: string | null
  word: string
  by: string
  lifted: boolean
  catches: number
}

export interface SuppressionIndex {
  total: number
  rows: SuppressionView[]
  counts: { reason: Reason; standing: number; lifted: number }[]
  register: { name: string; version: string; goodThrough: string } | null
}

export interface RequalifyPage {
  list: string
  round: { id: number; number: number; releasedAt: string; open: boolean }
  editions: { earlier: number; today: number }
  listed: RequalifyFigures
  clear: RequalifyFigures
  /** Each row's cause in words, in the order of the rows of each account. */
  causes: { listed: string[]; clear: string[] }
  page: PeoplePage
}

export interface Batch {
  id: number
  kind: BatchKind
  file_name: string
  state: 'mapping' | 'queued' | 'running' | 'done' | 'failed'
  encoding: string
  delimiter: string
  has_header: boolean
  header: string[]
  mapping: Mapping
  options: BatchOptions
  rows_total: number | null
  rows_done: number
  error: string | null
  actor_id: string
  created_at: Date
  finished_at: Date | null
}

export interface BatchPreview {
  batch: Batch
  rows: { raw: string[]; stored: PersonRow | ContactRow | SuppressionRow | Refusal }[]
  lacks: string | null
}

/** Options of a batch of suppressions: the reason for rows that name none, and the register a file is a copy of. */
export interface BatchOptions {
  register?: { name: string; version: string }
}

/** What a server action gives back: its value, or a sentence for the person. */
export type ActionResult<T = unknown> = { ok: true; value: T } | { ok: false; error: string }

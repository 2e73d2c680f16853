import type { Subject } from '../columns/subject'
import type { Weight } from '../facets/alike'
import type { AreaShape } from '../areas/shape'
import type { CustomField } from '../clean/custom'
import type { ContactRow, PersonRow, PremisesRow, Refusal, SuppressionRow } from '../clean/rows'
import type { Channel, Reason, Scope, ScreenedChannel, Way } from '../columns/person-record'
import type { Phrase } from '../criteria/kind'
import type { EditionFigures } from '../lists/compare-editions'
import type { Line } from '../lists/line'
import type { ListRole } from '../lists/roles'
import type { Shaping } from '../match/shaping'
import type { Reading, ReadingChoices } from '../match/reading'
import type { BatchKind, FieldRules, Guess, Mapping } from '../match/columns'
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
  strip: [daysAgo: number, channel: Way][]
  last: { at: string; channel: Way; result: string | null; by: string } | null
  /** Why they stand in this tab, where there is something to tell: a headline and what it rests on. */
  because?: { title: string; detail: string }
  /** In a round that is being built: channels somebody let them through by, and those somebody still may. */
  through?: { let: { channel: ScreenedChannel; reason: string; by: string }[]; may: ScreenedChannel[] }
}

export interface PeoplePage {
  total: number
  people: PersonView[]
  /** The answer is as of then, because the database could not be heard since. */
  behind: string | null
}

/** Words of a role that a team takes for one. */
export interface RoleWording {
  id: number
  name: string
  says: string[]
  butNot: string[]
}

/** A named area. */
export interface AreaView {
  id: number
  name: string
  shape: AreaShape
  shared: boolean
  mine: boolean
  owner: string
  at: string
}

/** A record of any subject as a row of a list's table. */
export interface RecordView {
  id: number
  title: string
  under: string
  href: string
  /** Of a person: what their own columns show. */
  person: PersonView | null
  because?: { title: string; detail: string }
  /** What it has of each column that was asked for; null where it is missing. */
  cells?: (string | null)[]
}

/** What is known of a record, and what happened lately, beside a list. */
export interface RecordBesideView {
  facts: { name: string; value: string }[]
  lately: { id: number; at: string; channel: Way | null; text: string }[]
}

export interface RecordsPage {
  total: number
  records: RecordView[]
  behind: string | null
}

/** Records most like some examples, and what sets those apart. */
export interface AlikePage {
  examples: number
  telling: (Weight & { title: string })[]
  page: RecordsPage
}

export interface ListView {
  id: number
  name: string
  shared: boolean
  /** What the person who looks may do with it. */
  role: ListRole
  labels: string[]
  archived: boolean
  pinned: boolean
  mine: boolean
  owner: string
  edition: number
  savedBy: string
  savedAt: string
  lines: Line[]
  /** What this person worked on and has not saved: from which edition, and the lines that one had. */
  draft: { basedOn: number; lines: Line[]; basis: Line[] } | null
}

/** What somebody said of a line of a list. */
export interface LineComment {
  id: number
  line: string
  /** The line as it read then. */
  of: string
  edition: number
  text: string
  by: string
  mine: boolean
  at: string
  settled: { by: string; at: string } | null
}

/** Other lines proposed for a list. */
export interface ProposalView {
  id: number
  by: string
  mine: boolean
  mayDecide: boolean
  at: string
  note: string
  /** The edition it was made from, with its lines; the lines proposed; and the list as it stands now with what they change. */
  basedOn: number
  basis: Line[]
  lines: Line[]
  page: Line[]
  /** What it changes, in words; `crosses` where somebody else changed that line since. */
  differences: (LineDifference & { crosses: boolean })[]
  decision: { is: 'taken' | 'not taken' | 'taken back'; by: string; reason: string; edition: number | null } | null
}

/** What a proposal would do today; `behind` is as of when, where that is not now. */
export interface ProposalEffect {
  figures: EditionFigures
  behind: string | null
}

export interface EditionView {
  number: number
  savedAt: string
  by: string
  /** Why it was saved, where that was said. */
  why: string | null
  balance: number | null
  lines: number
}

/** One line of two pages held against each other, in words. */
export interface LineDifference {
  is: 'same' | 'moved' | 'changed' | 'added' | 'removed'
  id: string
  number: number
  text: string
  was: string | null
}

export interface EditionsPage {
  lines: LineDifference[]
  figures: EditionFigures
  page: RecordsPage
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
  /** How many people were let through. */
  letThrough: number
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
  /** Every field of the team's own, with what this person has in it. */
  custom: { field: CustomField; value: string | null }[]
  outsideId: string | null
  postal: string | null
  addresses: { id: number; channel: Channel; value: string; usable: boolean; why: string | null; /** Of an e-mail: whose it looks to be. */ about: string | null; /** What checks or calls have shown of it, and when. */ state: { is: string; at: string | null; why: string | null; /** How many others of the organisation have it. */ shared: number; old: boolean } | null; suppressed: string | null }[]
  suppressions: { id: number; reason: Reason; scope: Scope; who: string; channels: Channel[]; since: string; until: string | null; word: string; by: string; lifted: { at: string; word: string; by: string } | null }[]
  lists: { list: string; listId: number; round: number; roundId: number; heldBack: boolean }[]
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
  staff: PersonView[]
  ledger: LedgerItem[]
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
  subject: Subject
  labels: string[]
  archived: boolean
  /** Kept at the top by the person who looks. */
  pinned: boolean
  shared: boolean
  role: ListRole
  /** Proposals that wait. */
  proposals: number
  mine: boolean
  owner: string
  edition: number
  savedAt: string
  balance: number | null
  /** How many it holds now, and how many of them came on since this person last opened it; absent while the engine is away. */
  now?: { on: number; fresh: number | null }
  lastRound: { id: number; number: number; state: RoundState; at: string } | null
}

/** What can become of a row of a file. */
export const OUTCOMES = ['new', 'same', 'updated', 'in doubt', 'refused'] as const
export type Outcome = (typeof OUTCOMES)[number]

/** What became of a row when its batch was undone. */
export const UNDONE = ['withdrawn', 'put back', 'reversed', 'kept', 'nothing to undo'] as const
export type Undone = (typeof UNDONE)[number]

/** What merging two records takes over, and where they differ and the one that is kept stays as it is. */
export interface MergeAccount {
  keep: { id: number; name: string }
  merge: { id: number; name: string }
  takenOver: { field: string; value: string }[]
  stays: { field: string; kept: string; other: string }[]
  entries: number
  contacts: number
}

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
  batch: Omit<Batch, 'created_at' | 'finished_at' | 'undone_by' | 'first_rows'> & { at: string }
  counts: Record<Outcome, number>
  /** Once it is undone, or being undone: what became of its rows. */
  undone: { counts: Partial<Record<Undone, number>>; by: string } | null
  /** While it waits: the batch that the very same file came in with before. */
  twin: { id: number; name: string; at: string } | null
}

export interface BatchRowView {
  undone: { what: Undone; why: string | null } | null
  row: number
  raw: string[]
  reason: string | null
  person: { id: number; name: string } | null
  premises: { id: number; name: string } | null
  /** What the batch changed of the record, where the row did. */
  changes: FieldChange[]
  candidates: { id: number; name: string; organisation: string | null }[]
}

export interface SuppressionView {
  id: number
  reason: Reason
  channels: Channel[]
  scope: Scope
  who: string
  personId: number | null
  organisationId: number | null
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
  /** The register in use; what is new and gone since the version before it; and how many stand that are gone from it. */
  register: { name: string; version: string; goodThrough: string; since: { fresh: number; gone: number } | null; stillHeld: number } | null
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
  state: 'mapping' | 'queued' | 'running' | 'done' | 'failed' | 'undoing' | 'undone'
  reading: Reading
  choices: ReadingChoices
  header: string[]
  first_rows: string[][] | null
  mapping: Mapping
  shaping: Shaping
  options: BatchOptions
  trial: BatchTrial | null
  rows_total: number | null
  rows_done: number
  error: string | null
  actor_id: string
  created_at: Date
  finished_at: Date | null
  undone_by: string | null
}

/** A field of a record that changes: what it was, and what it is then. */
export interface FieldChange {
  field: string
  before: string | null
  after: string | null
}

/** What would become of a file, found by bringing it in and taking all of it back before anybody sees it. */
export interface BatchTrial {
  /** What was tried: the kind and the mapping. */
  of: string
  state: 'running' | 'done' | 'failed'
  /** Rows that were tried; where the file has more, those after them were not. */
  rows: number
  all: boolean
  counts: Record<Outcome, number>
  /** Of those that are known and would change: how many change each field. */
  fields: Record<string, number>
  /** Of the new: with an address or number on a do-not-call register, or suppressed otherwise. */
  register: number
  suppressed: number
  /** Of the known: released in a round of a list before. */
  released: number
  /** The first rows that would change somebody known, each with what it would change. */
  changes?: { row: number; name: string; fields: FieldChange[] }[]
  /** Why it failed, in words. */
  error?: string
}

export interface BatchPreview {
  batch: Batch
  /** Titles of the columns, those that are made after those of the file. */
  header: string[]
  customs: CustomField[]
  /** What stands in each column, the most used first. */
  words: string[][]
  /** What each column was guessed to hold, and by what. */
  guesses: (Guess | null)[]
  rows: { raw: string[]; shaped: string[]; stored: PersonRow | ContactRow | SuppressionRow | PremisesRow | Refusal }[]
  lacks: string | null
}

/** A mapping that was saved under a name. */
export interface MappingProfile {
  id: number
  name: string
  kind: BatchKind
  at: string
  by: string
}

/** How a saved mapping fits another file: what its columns hold, and titles that this file does not have. */
export interface ProfileApplied {
  kind: BatchKind
  mapping: Mapping
  shaping: Shaping
  missing: string[]
}

/** Options of a batch of suppressions: the reason for rows that name none, and the register a file is a copy of. */
export interface BatchOptions {
  register?: { name: string; version: string }
  /** Set where the very same file is meant to come in once more. */
  again?: true
  /** Of people: the fields that are only filled where they are blank. */
  rules?: FieldRules
  /** Of people: rows are matched by what they share exactly and not by likeness. */
  byKeysAlone?: true
}

/** What a server action gives back: its value, or a sentence for the person. */
export type ActionResult<T = unknown> = { ok: true; value: T } | { ok: false; error: string }

/** The last search for doubles, and the pairs that wait for somebody to decide. */
export interface DoublesPage {
  search: { state: 'queued' | 'running' | 'done' | 'failed'; done: number; people: number | null; compared: number | null; at: string; by: string; error: string | null } | null
  /** Pairs nobody has decided about; how many of them are as good as sure; and what was decided. */
  open: number
  sure: number
  same: number
  different: number
  pairs: { a: number; b: number; chance: number; aName: string; bName: string; aOrganisation: string | null; bOrganisation: string | null }[]
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

/** A row in doubt beside those it could be. */
export interface RowDoubt {
  row: number
  why: string
  fields: Record<string, string>
  candidates: (PairSide & { agrees: PairView['agrees'] })[]
}

/** What came of taking a merge back: the fields that stay as they are, because they were worked on since. */
export interface PartedAccount {
  stays: { field: string; now: string }[]
}

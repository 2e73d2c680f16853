import type { Channel } from '../records/channels'
import type { Rhythm } from '../calendar/rhythm'
import type { AreaShape } from '../areas/shape'
import type { Subject } from '../records/subject'
import type { Weight } from '../facets/alike'
import type { EditionFigures } from '../lists/compare-editions'
import type { Line } from '../lists/line'
import type { ListRole } from '../records/list-roles'
import type { PersonView } from './record-views'
import type { RoundState } from './round-views'
import type { Way } from '../records/channels'

/** Plain shapes that screens of lists are drawn from. Instants are ISO 8601 strings in UTC. */

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
  /** When it is due again, and the next day on which it is; null where it has no rhythm. */
  rhythm: Rhythm | null
  due: string | null
  /** It is only for following, and never goes out in a round. */
  onlyFollow: boolean
  /** The kinds of changes that give its people an opener, each with the list's own sentence where it has one. */
  openers: { kind: number; own: string | null }[]
  /** Kinds of changes that put their record on the list, as a proposal or as an edition; null where none does. */
  placement: { how: 'proposal' | 'edition'; kinds: number[] } | null
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
  page: RecordsPage
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
  /** Whether this person has lines of it that are not saved. */
  draft: boolean
  mine: boolean
  owner: string
  edition: number
  savedAt: string
  balance: number | null
  /** How many it holds now, and how many of them came on since this person last opened it; absent while the engine is away. */
  now?: { on: number; fresh: number | null }
  lastRound: { id: number; number: number; state: RoundState; at: string } | null
}

/** What came of the rows of a file that was only looked up: whom they are, and how many are nobody's or could be several. */
export interface Uploaded {
  set: { id: number; count: number }
  names: string[]
  by: string
  rows: number
  /** Rows about nobody in the directory, and some of them as they came. */
  nobody: { count: number; some: string[] }
  several: number
  /** Rows that cannot be right, such as an email that is none. */
  unclear: number
}

/** What contacting the people of a list costs, in minor units: as its policy plans it, and by each channel alone for all who have an address there. */
export interface ListCost {
  planned: number
  /** How many the plan contacts. */
  people: number
  /** What it may cost, in whole units; null without a limit. */
  budget: number | null
  all: { channel: Channel; people: number; cost: number }[]
}

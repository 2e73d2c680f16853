import type { TaskView } from './today-views'
import type { ChangesAccount } from '../changes/account'
import type { Asks } from '../changes/asks'
import type { FeedOutcome } from '../changes/feed'
import type { Freshness } from '../changes/freshness'
import type { Interval, Sure } from '../changes/sighting'
import type { Subject } from '../records/subject'

/** Which of the changes are shown. */
export const CHANGE_TABS = ['all', 'confirm', 'answer', 'reconsider', 'opening', 'lead'] as const
export type ChangeTab = (typeof CHANGE_TABS)[number]

export interface ChangesView {
  tab: ChangeTab
  /** Only those of one list, or that stand so; null: all. */
  list: number | null
  freshness: Freshness | null
  /** Only those of one record. */
  offset: number
}

/** One change as somebody sees it. */
export interface ChangeRow extends Interval {
  id: number
  of: Subject
  record: number
  /** The name of the record, and of the organisation it belongs to. */
  name: string
  organisation: string | null
  kind: string
  kindId: number
  asks: Asks
  /** Of a field: its name and both values as they are written. */
  field: { name: string; before: string; after: string } | null
  /** Of something that happened: what was said, and where. */
  text: string | null
  link: string | null
  sources: number
  source: string
  sure: Sure
  freshness: Freshness
  state: 'open' | 'taken' | 'handled' | 'set aside'
  stateBy: string | null
  /** Taken by whoever looks. */
  mine: boolean
  /** What it does to lists, as far as whoever looks may see them. */
  lists: { id: number; name: string; is: 'stays on' | 'now fits' | 'no longer fits' }[]
  opener: string | null
  /** Whose the talks are, where we are in talks with them. */
  leads: string | null
  /** The contact of ours that came shortly before. */
  after_contact: string | null
  putOffUntil: string | null
  /** It was confirmed, and the record says so. */
  confirmed: boolean
  /** It can be confirmed or turned down on the record. */
  decide: 'left' | 'field' | null
}

export interface ChangesPage {
  today: string
  lookedAt: string | null
  account: ChangesAccount
  /** How many are unhandled now by what they ask, by list and by how fresh they are. */
  asks: Record<Asks, number>
  lists: { id: number; name: string; n: number }[]
  freshness: Record<Freshness, number>
  total: number
  rows: ChangeRow[]
  following: { lists: number; records: number; kindsMuted: number }
  /** Some that came lately were not yet held against the lists. */
  reading: boolean
}

/** A kind of changes as the team set it. */
export interface KindView {
  id: number
  /** One the team added. */
  own: boolean
  /** One that can be reported by hand. */
  told: boolean
  name: string
  asks: Exclude<Asks, 'lead'>
  freshDays: number | null
  opener: string | null
  muted: boolean
  changes: number
}

/** What became of the rows of a file of changes. */
export interface ImportedChanges {
  rows: number
  reported: number
  known: number
  nobody: number
  inDoubt: number
  refused: number
  /** Rows that were not reported, with why: the first of them. */
  not: { row: number; why: string }[]
}

/** What somebody follows. */
export interface FollowingView {
  lists: { id: number; name: string; following: boolean; onlyFollow: boolean }[]
  records: { of: Subject; id: number; name: string }[]
  kinds: KindView[]
  /** How far back what they begin to follow reaches. */
  reachDays: number
  /** The outside feeds: when each was read, and what became of what it sent. */
  feeds: { name: string; readAt: string | null; error: string | null; outcomes: Partial<Record<FeedOutcome, number>> }[]
}

/** The changes of one record, on its page. */
export interface RecordChanges {
  of: Subject
  id: number
  today: string
  followed: boolean
  rows: ChangeRow[]
  /** Kinds that can be reported by hand. */
  kinds: { id: number; name: string }[]
  /** Tasks about it that are still to do, whosever they are. */
  tasks: TaskView[]
  colleagues: { id: string; name: string }[]
  me: string
}

import type { AreaShape } from '@/core/areas/shape'
import type { FindWord, PeopleSort } from '@/core/columns/find'
import type { Subject } from '@/core/columns/subject'
import type { Moment } from '@/core/criteria/kind'
import type { Criterion } from '@/core/criteria/registry'
import type { Weight } from '@/core/facets/alike'
import type { ProfileOf } from '@/core/facets/profile'
import type { SortKey } from '@/core/facets/sort'
import type { ListFigures } from '@/core/lists/account'
import type { Line } from '@/core/lists/line'
import type { EditionFigures } from '@/core/lists/compare-editions'
import type { NamedLists } from '@/core/lists/named'
import type { ListView } from '@/core/lists/view'
import type { RequalifyFigures } from '@/core/rounds/requalify'
import type { ScreeningFigures } from '@/core/screening/account'
import type { ScreeningMoment } from '@/core/screening/kind'
import type { Glance } from '@/core/screening/glance'
import type { Rule } from '@/core/screening/rules'
import type { RequalifyView, ScreeningView } from '@/core/views/round-views'

/** A page of people to go with the figures. */
export interface PageWanted {
  offset: number
  limit: number
}

interface Whole {
  /** Names the screen that asks: only its newest request is worth an answer. */
  screen?: string
}

/** A page of lines with the lines of every list that they name. Sets of picked people never change and are looked up. */
export interface PageOfLines {
  lines: Line[]
  named: NamedLists
}

export interface ListRequest extends Whole, PageOfLines {
  moment: Moment
  view: ListView
  page: PageWanted
  /** Who was on when somebody last looked: packed ids in base64. */
  since?: string | null
  /** By what the page is sorted; in the order in which records are shown where there is nothing. */
  sort?: SortKey[]
  /** Only those with one value of a facet; null is of those that have none. */
  having?: Having | null
  /** Facets to tell of each record on the page. */
  columns?: string[]
  /** Only those that lie in a shape, or at some premises. */
  place?: Place | null
}

export type Place = { shape: AreaShape } | { premises: number[] }

export interface Having {
  key: string
  label: string | null
}

/** Those behind a tab or figure, counted by a facet. */
export interface GroupRequest extends Whole, PageOfLines {
  moment: Moment
  view: ListView
  key: string
}

export interface GroupAnswer {
  behind: number | null
  rows: { label: string; count: number }[]
  unknown: number
  total: number
}

/** Of how many on the page so far it is not known what a kind of criterion asks, by kind; and a draft of one more line. */
export interface PresenceRequest extends Whole, PageOfLines {
  moment: Moment
  kinds: Criterion[]
}

export interface PresenceAnswer {
  behind: number | null
  on: number
  /** In the order of `kinds`. */
  unknown: number[]
}

export interface ProfileRequest extends Whole, PageOfLines {
  /** What the list is held against: another page, or the whole directory. */
  base: PageOfLines | null
  moment: Moment
}

export interface ProfileAnswer {
  behind: number | null
  total: number
  baseTotal: number
  facets: ProfileOf[]
}

/** Records like those on a page, which are left out. */
export interface AlikeRequest extends Whole, PageOfLines {
  moment: Moment
  page: PageWanted
}

export interface AlikeAnswer extends Answered {
  examples: number
  scores: number[]
  /** Why each of `ids` scores as it does. */
  reasons: Weight[][]
  /** What sets the examples apart, what says most first. */
  telling: (Weight & { title: string })[]
}

/** Where those behind a tab or figure lie, gathered in squares of a part of the map. */
export interface MapRequest extends Whole, PageOfLines {
  moment: Moment
  view: ListView
  /** West, south, east, north in degrees. */
  box: [number, number, number, number]
  /** Squares from west to east. */
  columns: number
  /** Counts those of them that lie in a shape that is being drawn. */
  shape?: AreaShape | null
}

export interface MapAnswer {
  behind: number | null
  /** Premises of records in view, gathered: how many records, and the premises themselves where they are few. */
  points: { lat: number; lon: number; count: number; premises: number[] }[]
  placed: number
  total: number
  inShape: number | null
}

/** Streets whose name is likest to what was typed, with how many records of the subject are on each. */
export interface StreetsRequest extends Whole {
  subject: Subject
  typed: string
}

export interface StreetsAnswer {
  behind: number | null
  /** How many are on a street of just that name. */
  exact: number
  likely: { street: string; count: number }[]
}

export interface ScreenRequest extends Whole, PageOfLines {
  rules: Rule[]
  moment: ScreeningMoment
  view: ScreeningView
  page: PageWanted
}

export interface RequalifyRequest extends Whole {
  round: number
  then: PageOfLines
  now: PageOfLines
  rules: Rule[]
  moment: ScreeningMoment
  view: RequalifyView
  page: PageWanted
}

export interface ReleaseRequest extends PageOfLines {
  rules: Rule[]
  moment: ScreeningMoment
}

export interface CompareRequest extends Whole {
  earlier: PageOfLines
  later: PageOfLines
  moment: Moment
  tab: 'left' | 'joined' | 'stayed'
  page: PageWanted
}

/** People of the directory who say every word. */
export interface FindRequest extends Whole {
  moment: Moment
  words: FindWord[]
  sort: PeopleSort
  page: PageWanted
}

/** Several lists at once: how many are on, and how many of them were not when somebody last looked. */
export interface BalancesRequest {
  lists: (PageOfLines & { since: string | null })[]
  moment: Moment
}

/** `behind` is set when the database could not be heard in time: the answer is as of then (UTC milliseconds). */
interface Answered {
  behind: number | null
  total: number
  ids: number[]
}

export interface ListAnswer extends Answered {
  figures: ListFigures
  /** Deciding line of each of `ids`, where the tab shows people who are not on. */
  decided: ({ line: string; how: 'out' | 'unknown' } | null)[]
  /** How many are on who were not at the last look; null where nobody looked before. */
  fresh: number | null
  /** What each of `ids` has of each of the columns that were asked for; null where it is missing. */
  cells?: (string | null)[][]
  /** Of people: what a row tells of each of `ids`. */
  glances?: Glance[]
}

export interface FindAnswer extends Answered {
  glances: Glance[]
}

export interface MembersAnswer {
  behind: number | null
  /** Who is on: packed ids in base64. */
  packed: string
  total: number
}

export interface BalancesAnswer {
  behind: number | null
  lists: { on: number; fresh: number | null }[]
}

export interface CompareAnswer extends Answered {
  figures: EditionFigures
  /** Deciding line, by the edition that left them out, of each of `ids`. */
  decided: ({ line: string; how: 'out' | 'unknown' } | null)[]
}

export interface ScreenAnswer extends Answered {
  figures: ScreeningFigures
  list: ListFigures
}

export interface RequalifyAnswer extends Answered {
  listed: RequalifyFigures
  clear: RequalifyFigures
  /** Row of the account (index) that each of `ids` belongs to, or -1 for those who stayed. */
  rows: number[]
}

/** Everything a release freezes, by id. `standing` is base64 of little-endian Int32 ids and of one code a person. */
export interface ReleaseAnswer {
  behind: number | null
  list: ListFigures
  figures: ScreeningFigures
  standing: { ids: string; codes: string }
  on: number[]
  /** Index of the line that took in each of `on`. */
  tookIn: number[]
}

export interface EngineHealth {
  ready: boolean
  people: number
  heardAt: number | null
  memory: number
}

export interface Protocol {
  list: [ListRequest, ListAnswer]
  screen: [ScreenRequest, ScreenAnswer]
  requalify: [RequalifyRequest, RequalifyAnswer]
  release: [ReleaseRequest, ReleaseAnswer]
  members: [PageOfLines & { moment: Moment }, MembersAnswer]
  balances: [BalancesRequest, BalancesAnswer]
  compare: [CompareRequest, CompareAnswer]
  find: [FindRequest, FindAnswer]
  group: [GroupRequest, GroupAnswer]
  presence: [PresenceRequest, PresenceAnswer]
  profile: [ProfileRequest, ProfileAnswer]
  alike: [AlikeRequest, AlikeAnswer]
  map: [MapRequest, MapAnswer]
  streets: [StreetsRequest, StreetsAnswer]
  health: [Record<string, never>, EngineHealth]
}

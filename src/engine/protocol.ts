import type { FindWord, PeopleSort } from '@/core/columns/find'
import type { Moment } from '@/core/criteria/kind'
import type { ListFigures } from '@/core/lists/account'
import type { Line } from '@/core/lists/line'
import type { EditionFigures } from '@/core/lists/compare-editions'
import type { NamedLists } from '@/core/lists/named'
import type { ListView } from '@/core/lists/view'
import type { RequalifyFigures } from '@/core/rounds/requalify'
import type { ScreeningFigures } from '@/core/screening/account'
import type { ScreeningMoment } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'

/** A page of people to go with the figures. */
export interface PageWanted {
  offset: number
  limit: number
}

export type ScreeningView = { tab: 'clear' | 'held' | 'through' } | { tab: 'channel'; channel: 'email' | 'phone' | 'post' } | { tab: 'rule'; rule: number; channel?: 'email' | 'phone' | 'post' }

export type RequalifyView = { account: 'listed' | 'clear'; tab: 'left' | 'joined' | 'stayed' } | { account: 'listed' | 'clear'; tab: 'row'; row: number }

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
  find: [FindRequest, Answered]
  health: [Record<string, never>, EngineHealth]
}

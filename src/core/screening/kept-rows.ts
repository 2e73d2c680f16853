import { LRUCache } from 'lru-cache'
import type { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import { localDate } from '../calendar/local-day'
import type { Channel } from '../records/channels'
import type { ScreeningMoment } from './kind'
import { sharedRows } from './same-address'
import { stretchOf } from './suppressed'
import type { Rule } from './rules'

/** What is kept of one list while nothing in the columns changes: its usable rows, and by rule what it closes. */
export interface KeptList {
  columns: PeopleColumns
  version: number
  listed: Bitset
  usable: Bitset
  /** Those of its usable rows that share their address or number with another; made when it is first asked for. */
  shared(): Bitset
  ofRule: LRUCache<string, object>
  /** What was left after each rule when the list was last screened. */
  chain: Link[]
}

/** What was left after one of several rules in their order; nothing of it is written to. */
export interface Link {
  rule: string
  /** The rows it closes. While the same set comes from what is kept, and all before it is the same, so is what is left. */
  closing: Bitset
  open: Record<Channel, Bitset>
  rows: Bitset
  anyone: Bitset
  closed: Record<Channel, Bitset>
  heldBack: Bitset
  figures: { rule: string; out: Record<Channel, number>; balance: Record<Channel, number>; anyoneOut: number; anyone: number }
}

/** So many lists are kept, and so many rules of each: whoever edits a rule asks for the same list again and again. */
const MOST_LISTS = 3
const MOST_RULES = 40
/** Beyond so many let-throughs nothing is kept: each makes another answer. */
const MOST_THROUGH = 200

const known = new WeakMap<PeopleColumns, KeptList[]>()

function made(columns: PeopleColumns, listed: Bitset, usable: Bitset): KeptList {
  let shared: Bitset | null = null
  return {
    columns,
    version: columns.version,
    listed: listed.clone(),
    usable,
    shared: () => (shared ??= sharedRows(usable, columns)),
    ofRule: new LRUCache<string, object>({ max: MOST_RULES }),
    chain: [],
  }
}

/** What is kept of a list, made where it is not known. */
export function keptList(columns: PeopleColumns, listed: Bitset, usable: () => Bitset): KeptList {
  const lists = (known.get(columns) ?? []).filter((list) => list.version === columns.version)
  const same = lists.find((list) => list.listed.equals(listed))
  const list = same ?? made(columns, listed, usable())
  known.set(columns, [list, ...lists.filter((other) => other !== list)].slice(0, MOST_LISTS))
  return list
}

/**
 * What a rule gives on a list, kept by its settings and by what of the moment it may hang on: the day and the minute, the rounds that do
 * not count, holidays, and whether a contact is about to be made. Rules about suppressions go by the stretch of time in which none begins
 * or ends.
 */
export function keptOf<T extends object>(list: KeptList, what: string, rule: Rule, moment: ScreeningMoment, make: () => T): T {
  if (moment.letThrough.length > MOST_THROUGH) return make()
  const { id: _id, ...settings } = rule
  const exact = rule.kind === 'asked-to-stop' || rule.kind === 'register'
  const when = `${localDate(moment.asOf, moment.zone)} ${exact ? stretchOf(list.columns, moment.asOf) : Math.floor(moment.asOf / 60_000)}`
  const key = JSON.stringify([
    what,
    settings,
    when,
    moment.zone,
    moment.exceptRounds,
    moment.letThrough,
    moment.seats?.print ?? null,
    moment.allowances ?? null,
    moment.holidays ?? null,
    moment.now ?? null,
  ])
  const before = list.ofRule.get(key) as T | undefined
  if (before !== undefined) return before
  const made = make()
  list.ofRule.set(key, made)
  return made
}

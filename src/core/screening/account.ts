import { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import { CHANNELS, type Channel } from '../records/channels'
import { keptList, keptOf } from './kept-rows'
import { markRows, type ScreeningMoment, type Wait } from './kind'
import { covered, isOff, isOfSet, marksOf, type Rule, ruleKind } from './rules'

export type PerChannel<T> = Record<Channel, T>

/** What one rule closed. Per channel: balance before − out = balance; the same for anyone. */
export interface RuleFigures {
  /** The id of the rule. */
  rule: string
  out: PerChannel<number>
  balance: PerChannel<number>
  /** Of how many it would close the channel if it were the only rule. Absent in rounds that were released before this was kept. */
  alone?: PerChannel<number>
  /** Of how many only it closes the channel: without it some address would be open. */
  onlyIt?: PerChannel<number>
  /** Records whose last open channel this rule closed. */
  anyoneOut: number
  anyone: number
}

export interface ScreeningFigures {
  opening: number
  rules: RuleFigures[]
  clear: PerChannel<number>
  anyone: number
  heldBack: number
  /** How many are clear by exactly which channels, the most first. */
  ways: { channels: Channel[]; count: number }[]
}

/** What one rule closed, as sets. */
export interface RuleSets {
  rule: string
  closed: PerChannel<Bitset>
  heldBack: Bitset
}

/** One rule about a set by which somebody waits, and on which channels. */
export interface Waits extends Wait {
  rule: string
}

/** A list put through the rules: its figures, and the sets behind them. */
export interface ScreeningAccount {
  figures: ScreeningFigures
  clear: PerChannel<Bitset>
  anyone: Bitset
  /** In the order of the rules: whose channel each closed, and whom it held back everywhere. */
  rules: RuleSets[]
  /** Who waits behind others of a set, by record number: by which rules, in their order, and behind whom. */
  waiting: { get(n: number): Waits[] | undefined }
  /** Rows of `columns.addresses` still open: usable and closed by no rule. */
  openRows: Bitset
}

/** Screens the people of a list. The first rule is *no way to reach*; rules that are off close nothing. */
export function screeningAccount(listed: Bitset, rules: Rule[], columns: PeopleColumns, moment: ScreeningMoment): ScreeningAccount {
  const kept = keptList(columns, listed, () => usableRows(listed, columns))
  const { usable } = kept
  let rows = usable.clone()
  const spared = sparedRows(columns, moment)
  const opening = listed.count()
  const closing = rules.map((rule, i) => {
    if (i === 0 || isOff(rule) || isOfSet(rule)) return new Bitset()
    return keptOf(kept, 'closes', rule, moment, () => {
      const marks = marksOf(rule, columns, listed, moment)
      return marks.final.or(marks.ours.andNot(spared)).and(usable)
    })
  })
  const sets: RuleSets[] = []
  const figures: Omit<RuleFigures, 'alone' | 'onlyIt'>[] = []
  let open: PerChannel<Bitset> = each(() => listed)
  let anyone = listed
  let afterRecords = open
  const waits: { rule: string; of: Map<number, Wait[]> }[] = []
  const setAlone = new Map<string, PerChannel<number>>()
  for (const [i, rule] of rules.entries()) {
    const { id } = rule
    let next: PerChannel<Bitset>
    if (i === 0) next = each((c) => listed.and(columns.usable[c]))
    else if (!isOfSet(rule)) ({ next, rows } = afterRule(closing[i], open, rows, columns))
    else {
      const usableOf = each((c) => listed.and(columns.usable[c]))
      const none = each(() => 0)
      setAlone.set(
        id,
        isOff(rule)
          ? none
          : keptOf(
              kept,
              'alone',
              rule,
              moment,
              () => closedBySet(usableOf, waitersOf(rule, usableOf, usable, columns, moment), columns, moment).counts,
            ),
      )
      const of = isOff(rule) ? new Map<number, Wait[]>() : waitersOf(rule, open, rows, columns, moment)
      waits.push({ rule: id, of })
      next = closedBySet(open, of, columns, moment).next
      closeRows(rows, open, next, columns)
    }
    const nextAnyone = anyOf(next)
    const closed = each((c) => open[c].andNot(next[c]))
    const heldBack = anyone.andNot(nextAnyone)
    sets.push({ rule: id, closed, heldBack })
    figures.push({
      rule: id,
      out: each((c) => closed[c].count()),
      balance: each((c) => next[c].count()),
      anyoneOut: heldBack.count(),
      anyone: nextAnyone.count(),
    })
    open = next
    if (!isOfSet(rule)) afterRecords = open
    anyone = nextAnyone
  }
  const alone = closing.map((own, i) => keptOf(kept, 'alone', rules[i], moment, () => closedAlone(own, usable, columns)))
  const onlyIt = closedByOnlyOne(closing, afterRecords, columns)
  const left = anyone.count()
  return {
    clear: open,
    anyone,
    rules: sets,
    // Put together for whom it is asked of: most pages show some sixty people.
    waiting: {
      get(n) {
        const own = waits.flatMap(({ rule, of }) => (of.get(n) ?? []).map((wait) => ({ rule, ...wait })))
        return own.length > 0 ? own : undefined
      },
    },
    openRows: rows,
    figures: {
      opening,
      // A channel without a usable address is closed by the first rule, alone and by nothing else.
      rules: figures.map((own, i) => {
        const ofSet = setAlone.get(own.rule)
        if (i === 0) return { ...own, alone: own.out, onlyIt: own.out }
        // Whom a rule about a set closes nothing else had closed.
        return ofSet ? { ...own, alone: ofSet, onlyIt: own.out } : { ...own, alone: alone[i], onlyIt: onlyIt[i] }
      }),
      clear: each((c) => open[c].count()),
      anyone: left,
      heldBack: opening - left,
      ways: waysClear(open),
    },
  }
}

/** The channels and rows that are still open after a rule about one record; touches only whom it closes. */
function afterRule(
  own: Bitset,
  open: PerChannel<Bitset>,
  rows: Bitset,
  columns: PeopleColumns,
): { next: PerChannel<Bitset>; rows: Bitset } {
  const closing = own.and(rows)
  const left = rows.andNot(closing)
  const next = each((c) => open[c].clone())
  const sets = byPlace(next)
  const { owner } = columns.addresses
  const { channel } = columns.addresses.fields
  closing.forEach((row) => {
    const n = owner[row]
    const first = columns.addresses.first(n)
    const end = first + columns.addresses.count(n)
    for (let other = first; other < end; other++) if (channel[other] === channel[row] && left.has(other)) return
    sets[channel[row]].delete(n)
  })
  return { next, rows: left }
}

/** Who of those open by the channels a rule about a set covers must wait, and behind whom. */
function waitersOf(
  rule: Rule,
  open: PerChannel<Bitset>,
  rows: Bitset,
  columns: PeopleColumns,
  moment: ScreeningMoment,
): Map<number, Wait[]> {
  const channels = covered(rule)
  const clear = each((c) => (channels.includes(c) ? open[c] : new Bitset()))
  return ruleKind(rule).waits?.(rule, columns, { clear, anyone: anyOf(clear), rows }, moment, channels) ?? new Map()
}

/** The channels still open once some wait: those they wait on are closed for them, but for what somebody let through. */
function closedBySet(
  open: PerChannel<Bitset>,
  waits: ReadonlyMap<number, readonly Wait[]>,
  columns: PeopleColumns,
  { letThrough }: ScreeningMoment,
): { next: PerChannel<Bitset>; counts: PerChannel<number> } {
  const waiters = each(() => new Bitset(columns.size))
  for (const [n, own] of waits) for (const { channels } of own) for (const c of channels) waiters[c].add(n)
  const next = each((c) => {
    if (waiters[c].count() === 0) return open[c]
    const spared = columns.numbers(letThrough.filter(({ channel }) => channel === c).map(({ person }) => person))
    return open[c].andNot(waiters[c].andNot(spared))
  })
  return { next, counts: each((c) => open[c].andNot(next[c]).count()) }
}

/** Takes the rows of channels that were closed out of `rows`. */
function closeRows(rows: Bitset, open: PerChannel<Bitset>, next: PerChannel<Bitset>, columns: PeopleColumns): void {
  const { channel } = columns.addresses.fields
  CHANNELS.forEach((c, place) =>
    open[c].andNot(next[c]).forEach((n) => {
      const first = columns.addresses.first(n)
      for (let row = first; row < first + columns.addresses.count(n); row++) if (channel[row] === place) rows.delete(row)
    }),
  )
}

/** Of how many a rule that closes these rows closes a whole channel by itself. */
function closedAlone(own: Bitset, usable: Bitset, columns: PeopleColumns): PerChannel<number> {
  const sums = CHANNELS.map(() => 0)
  const { owner } = columns.addresses
  const { channel } = columns.addresses.fields
  own.forEach((row) => {
    const first = columns.addresses.first(owner[row])
    const end = first + columns.addresses.count(owner[row])
    for (let other = first; other < end; other++) {
      if (channel[other] !== channel[row] || other === row || !usable.has(other)) continue
      // Counted with the first of its rows, and only where the rule closes all of them.
      if (other < row || !own.has(other)) return
    }
    sums[channel[row]]++
  })
  return Object.fromEntries(CHANNELS.map((c, place) => [c, sums[place]])) as PerChannel<number>
}

/**
 * By rule, of how many it alone keeps a channel closed that is not among the `open` ones: without it, some address of that channel
 * would be open.
 */
function closedByOnlyOne(closing: Bitset[], open: PerChannel<Bitset>, columns: PeopleColumns): PerChannel<number>[] {
  const counts = closing.map(() => each(() => 0))
  const openSets = byPlace(open)
  // Rows that exactly one rule closes, a word of 32 rows at a time.
  let some = new Bitset()
  let several = new Bitset()
  for (const own of closing) {
    several = several.or(some.and(own))
    some = some.or(own)
  }
  const { owner } = columns.addresses
  const { channel } = columns.addresses.fields
  closing.forEach((own, i) => {
    const only = own.andNot(several)
    const sums = CHANNELS.map(() => 0)
    only.forEach((row) => {
      if (openSets[channel[row]].has(owner[row])) return
      // Counted with the first such row of the channel.
      for (let other = columns.addresses.first(owner[row]); other < row; other++)
        if (channel[other] === channel[row] && only.has(other)) return
      sums[channel[row]]++
    })
    CHANNELS.forEach((c, place) => {
      counts[i][c] = sums[place]
    })
  })
  return counts
}

/** How many are clear by exactly which channels. */
function waysClear(clear: PerChannel<Bitset>): ScreeningFigures['ways'] {
  return Array.from({ length: (1 << CHANNELS.length) - 1 }, (_, i) => {
    const channels = CHANNELS.filter((_channel, bit) => ((i + 1) >> bit) & 1)
    return { channels, count: clearByExactly(clear, channels).count() }
  })
    .filter(({ count }) => count > 0)
    .sort((a, b) => b.count - a.count)
}

/** Whoever is clear by all of some channels and by no other. */
export function clearByExactly(clear: PerChannel<Bitset>, channels: readonly Channel[]): Bitset {
  const others = CHANNELS.filter((c) => !channels.includes(c))
  const by = channels.map((c) => clear[c]).reduce((all, set) => all.and(set))
  return others.reduce((left, c) => left.andNot(clear[c]), by)
}

/** What there is by channel in the order of the channels, as their places stand in columns. */
const byPlace = <T>(of: PerChannel<T>): T[] => CHANNELS.map((channel) => of[channel])

function usableRows(listed: Bitset, columns: PeopleColumns): Bitset {
  const rows = new Bitset(columns.addresses.rows)
  const usable = columns.addresses.fields.usable
  listed.forEach((n) => {
    const first = columns.addresses.first(n)
    const end = first + columns.addresses.count(n)
    for (let row = first; row < end; row++) if (usable[row]) rows.add(row)
  })
  return rows
}

function sparedRows(columns: PeopleColumns, { letThrough }: ScreeningMoment): Bitset {
  const rows = new Bitset()
  for (const { person, channel } of letThrough) {
    const n = columns.numberFor(person)
    if (n !== undefined) markRows(columns, n, rows, (c) => c === CHANNELS.indexOf(channel))
  }
  return rows
}

const anyOf = (open: PerChannel<Bitset>): Bitset => CHANNELS.map((c) => open[c]).reduce((all, set) => all.or(set))

function each<T>(of: (channel: Channel) => T): PerChannel<T> {
  return Object.fromEntries(CHANNELS.map((c) => [c, of(c)])) as PerChannel<T>
}

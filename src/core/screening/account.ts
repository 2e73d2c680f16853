import { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import { CHANNELS, type Channel } from '../records/channels'
import { type KeptList, keptList, keptOf, type Link } from './kept-rows'
import { markRows, type ScreeningMoment, type StillOpen, type Wait } from './kind'
import { waysClear } from './ways'
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
  // Nothing that was kept is written to: what closes rows makes another set.
  let rows = usable
  const spared = sparedRows(columns, moment)
  const letThroughNobody = moment.letThrough.length === 0
  const opening = listed.count()
  const closing = rules.map((rule, i) => {
    if (i === 0 || isOff(rule) || isOfSet(rule)) return NOBODY
    return keptOf(kept, 'closes', rule, moment, () => {
      const marks = marksOf(rule, columns, listed, moment)
      return (letThroughNobody ? marks.final.or(marks.ours) : marks.final.or(marks.ours.andNot(spared))).and(usable)
    })
  })
  const chain: Link[] = []
  let open: PerChannel<Bitset> = each(() => listed)
  let anyone = listed
  let afterRecords = open
  const waits: { rule: string; of: Map<number, Wait[]> }[] = []
  const setAlone = new Map<string, PerChannel<number>>()
  for (const [i, rule] of rules.entries()) {
    const { id } = rule
    // Up to the first rule that is another than when the list was last screened, what is left is the same.
    const known = chain.length === i ? kept.chain[i] : undefined
    if (
      known &&
      !isOfSet(rule) &&
      known.rule === id &&
      known.closing === closing[i] &&
      chain.every((link, at) => link === kept.chain[at])
    ) {
      chain.push(known)
      ;({ open, rows, anyone } = known)
      afterRecords = open
      continue
    }
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
              () => closedBySet(usableOf, waitersOf(rule, usableOf, usable, kept, moment), columns, moment).counts,
            ),
      )
      const of = isOff(rule) ? new Map<number, Wait[]>() : waitersOf(rule, open, rows, kept, moment)
      waits.push({ rule: id, of })
      next = closedBySet(open, of, columns, moment).next
      rows = closeRows(rows, open, next, columns)
    }
    // Channels that a rule left as they were are the very sets from before, and nothing of them is worked out again.
    const same = CHANNELS.every((c) => next[c] === open[c])
    const nextAnyone = same ? anyone : anyOf(next)
    const closed = each((c) => (next[c] === open[c] ? NOBODY : open[c].andNot(next[c])))
    const heldBack = same ? NOBODY : anyone.andNot(nextAnyone)
    const before = chain.at(-1)?.figures
    const figures = {
      rule: id,
      out: each((c) => closed[c].count()),
      balance: each((c) => (before && next[c] === open[c] ? before.balance[c] : next[c].count())),
      anyoneOut: heldBack.count(),
      anyone: before && same ? before.anyone : nextAnyone.count(),
    }
    open = next
    if (!isOfSet(rule)) afterRecords = open
    anyone = nextAnyone
    chain.push({ rule: id, closing: closing[i], open, rows, anyone, closed, heldBack, figures })
  }
  kept.chain = chain
  const alone = closing.map((own, i) => keptOf(kept, 'alone', rules[i], moment, () => closedAlone(own, usable, columns)))
  const onlyIt = closedByOnlyOne(closing, afterRecords, columns)
  const left = anyone.count()
  return {
    clear: open,
    anyone,
    rules: chain.map(({ rule, closed, heldBack }) => ({ rule, closed, heldBack })),
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
      rules: chain.map(({ figures: own }, i) => {
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

/** A set that nobody is in, and nobody writes to. */
const NOBODY = new Bitset()

/** The channels and rows that are still open after a rule about one record; touches only whom it closes, and copies only what it changes. */
function afterRule(
  own: Bitset,
  open: PerChannel<Bitset>,
  rows: Bitset,
  columns: PeopleColumns,
): { next: PerChannel<Bitset>; rows: Bitset } {
  const closing = own.and(rows)
  const left = rows.andNot(closing)
  const sets = byPlace(open)
  const copied = sets.map(() => false)
  const { owner } = columns.addresses
  const { channel } = columns.addresses.fields
  closing.forEach((row) => {
    const n = owner[row]
    const place = channel[row]
    const first = columns.addresses.first(n)
    const end = first + columns.addresses.count(n)
    for (let other = first; other < end; other++) if (channel[other] === place && left.has(other)) return
    if (!copied[place]) {
      copied[place] = true
      sets[place] = sets[place].clone()
    }
    sets[place].delete(n)
  })
  return { next: Object.fromEntries(CHANNELS.map((c, place) => [c, sets[place]])) as PerChannel<Bitset>, rows: left }
}

/** Who of those open by the channels a rule about a set covers must wait, and behind whom. */
function waitersOf(rule: Rule, open: PerChannel<Bitset>, rows: Bitset, kept: KeptList, moment: ScreeningMoment): Map<number, Wait[]> {
  const channels = covered(rule)
  const clear = each((c) => (channels.includes(c) ? open[c] : NOBODY))
  const still: StillOpen = {
    clear,
    anyone: anyOf(clear),
    rows,
    get shared() {
      return kept.shared()
    },
  }
  return ruleKind(rule).waits?.(rule, kept.columns, still, moment, channels) ?? new Map()
}

/** The channels still open once some wait: those they wait on are closed for them, but for what somebody let through. */
function closedBySet(
  open: PerChannel<Bitset>,
  waits: ReadonlyMap<number, readonly Wait[]>,
  columns: PeopleColumns,
  { letThrough }: ScreeningMoment,
): { next: PerChannel<Bitset>; counts: PerChannel<number> } {
  const waiters = each((): Bitset | null => null)
  for (const [n, own] of waits) for (const { channels } of own) for (const c of channels) (waiters[c] ??= new Bitset(columns.size)).add(n)
  const next = each((c) => {
    const own = waiters[c]
    if (own === null) return open[c]
    const spared = columns.numbers(letThrough.filter(({ channel }) => channel === c).map(({ person }) => person))
    return open[c].andNot(own.andNot(spared))
  })
  return { next, counts: each((c) => (next[c] === open[c] ? 0 : open[c].andNot(next[c]).count())) }
}

/** The rows that stay open where channels were closed. */
function closeRows(rows: Bitset, open: PerChannel<Bitset>, next: PerChannel<Bitset>, columns: PeopleColumns): Bitset {
  const changed = CHANNELS.filter((c) => next[c] !== open[c])
  if (changed.length === 0) return rows
  const left = rows.clone()
  const { channel } = columns.addresses.fields
  for (const c of changed) {
    const place = CHANNELS.indexOf(c)
    open[c].andNot(next[c]).forEach((n) => {
      const first = columns.addresses.first(n)
      for (let row = first; row < first + columns.addresses.count(n); row++) if (channel[row] === place) left.delete(row)
    })
  }
  return left
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
  // Rows that several rules close, a word of 32 rows at a time.
  const some = new Int32Array(Math.max(0, ...closing.map(({ words }) => words.length)))
  const several = new Int32Array(some.length)
  for (const { words } of closing)
    for (let at = 0; at < words.length; at++) {
      several[at] |= some[at] & words[at]
      some[at] |= words[at]
    }
  const { owner } = columns.addresses
  const { channel } = columns.addresses.fields
  closing.forEach((own, i) => {
    const sums = CHANNELS.map(() => 0)
    const isOnly = (row: number) => own.has(row) && (several[row >>> 5] & (1 << (row & 31))) === 0
    own.forEachBut(several, (row) => {
      if (openSets[channel[row]].has(owner[row])) return
      // Counted with the first such row of the channel.
      for (let other = columns.addresses.first(owner[row]); other < row; other++)
        if (channel[other] === channel[row] && isOnly(other)) return
      sums[channel[row]]++
    })
    CHANNELS.forEach((c, place) => {
      counts[i][c] = sums[place]
    })
  })
  return counts
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

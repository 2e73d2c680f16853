import { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import { markRows, type ScreeningMoment } from './kind'
import { isOff, type Rule, ruleKind } from './rules'
import { CHANNELS, SCREENED, type ScreenedChannel } from '../records/channels'

type PerChannel<T> = Record<ScreenedChannel, T>

/** What one rule closed. Per channel: balance before − out = balance; the same for anyone. */
export interface RuleFigures {
  out: PerChannel<number>
  balance: PerChannel<number>
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
}

/** A list put through the rules: its figures, and the sets behind them. */
export interface ScreeningAccount {
  figures: ScreeningFigures
  clear: PerChannel<Bitset>
  anyone: Bitset
  /** By rule: whose channel it closed, and whom it held back everywhere. */
  rules: { closed: PerChannel<Bitset>; heldBack: Bitset }[]
  /** Rows of `columns.addresses` still open: usable and closed by no rule. */
  openRows: Bitset
}

/** Screens the people of a list. The first rule is *no way to reach*; rules that are off close nothing. */
export function screeningAccount(listed: Bitset, rules: Rule[], columns: PeopleColumns, moment: ScreeningMoment): ScreeningAccount {
  const rows = usableRows(listed, columns)
  const spared = sparedRows(columns, moment)
  const opening = listed.count()
  const sets: ScreeningAccount['rules'] = []
  const figures: RuleFigures[] = []
  let open: PerChannel<Bitset> = { email: listed, phone: listed, post: listed }
  let anyone = listed
  for (const [i, rule] of rules.entries()) {
    const next =
      i === 0
        ? each((c) => listed.and(columns.usable[c]))
        : isOff(rule)
          ? open
          : afterRule(rule, open, rows, spared, listed, columns, moment)
    const nextAnyone = next.email.or(next.phone).or(next.post)
    const closed = each((c) => open[c].andNot(next[c]))
    const heldBack = anyone.andNot(nextAnyone)
    sets.push({ closed, heldBack })
    figures.push({
      out: each((c) => closed[c].count()),
      balance: each((c) => next[c].count()),
      anyoneOut: heldBack.count(),
      anyone: nextAnyone.count(),
    })
    open = next
    anyone = nextAnyone
  }
  const left = anyone.count()
  return {
    clear: open,
    anyone,
    rules: sets,
    openRows: rows,
    figures: { opening, rules: figures, clear: each((c) => open[c].count()), anyone: left, heldBack: opening - left },
  }
}

/** Takes the rows a rule closes out of `rows` and gives the channels that are still open; touches only whom it closes. */
function afterRule(
  rule: Rule,
  open: PerChannel<Bitset>,
  rows: Bitset,
  spared: Bitset,
  listed: Bitset,
  columns: PeopleColumns,
  moment: ScreeningMoment,
): PerChannel<Bitset> {
  const marks = { final: new Bitset(), ours: new Bitset() }
  ruleKind(rule).mark(rule, columns, listed, moment, marks)
  const closing = marks.final.or(marks.ours.andNot(spared)).and(rows)
  closing.forEach((row) => rows.delete(row))
  const { owner } = columns.addresses
  const channels = columns.addresses.fields.channel
  const next = each((c) => open[c].clone())
  closing.forEach((row) => {
    const n = owner[row]
    const channel = CHANNELS[channels[row]] as ScreenedChannel
    const first = columns.addresses.first(n)
    for (let other = first; other < first + columns.addresses.count(n); other++)
      if (channels[other] === channels[row] && rows.has(other)) return
    next[channel].delete(n)
  })
  return next
}

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

function each<T>(of: (channel: ScreenedChannel) => T): PerChannel<T> {
  return Object.fromEntries(SCREENED.map((c) => [c, of(c)])) as PerChannel<T>
}

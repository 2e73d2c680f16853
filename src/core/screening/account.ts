import { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import { CHANNELS, SCREENED, type ScreenedChannel } from '../columns/person-record'
import type { ScreeningMoment } from './kind'
import { isOff, type Rule, ruleKind } from './rules'

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

const INDEX = { email: CHANNELS.indexOf('email'), phone: CHANNELS.indexOf('phone'), post: CHANNELS.indexOf('post') } as const

/** Screens the people of a list. The first rule is *no way to reach*; rules that are off close nothing. */
export function screeningAccount(listed: Bitset, rules: Rule[], columns: PeopleColumns, moment: ScreeningMoment): ScreeningAccount {
  let open: PerChannel<Bitset> = { email: listed, phone: listed, post: listed }
  let anyone = listed
  let rows = usableRows(listed, columns)
  const opening = listed.count()
  const sets: ScreeningAccount['rules'] = []
  const figures: RuleFigures[] = []
  for (const rule of rules) {
    if (!isOff(rule)) {
      const marked = new Bitset()
      ruleKind(rule).mark(rule, columns, anyone, moment, marked)
      rows = rows.andNot(marked)
    }
    const next = isOff(rule) ? open : stillOpen(open, rows, columns)
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

function usableRows(listed: Bitset, columns: PeopleColumns): Bitset {
  const rows = new Bitset()
  const usable = columns.addresses.fields.usable
  listed.forEach((n) => {
    const first = columns.addresses.first(n)
    const end = first + columns.addresses.count(n)
    for (let row = first; row < end; row++) if (usable[row]) rows.add(row)
  })
  return rows
}

function stillOpen(open: PerChannel<Bitset>, rows: Bitset, columns: PeopleColumns): PerChannel<Bitset> {
  const channels = columns.addresses.fields.channel
  return each((c) => {
    const next = new Bitset(columns.size)
    open[c].forEach((n) => {
      const first = columns.addresses.first(n)
      const end = first + columns.addresses.count(n)
      for (let row = first; row < end; row++) {
        if (channels[row] === INDEX[c] && rows.has(row)) {
          next.add(n)
          break
        }
      }
    })
    return next
  })
}

function each<T>(of: (channel: ScreenedChannel) => T): PerChannel<T> {
  return Object.fromEntries(SCREENED.map((c) => [c, of(c)])) as PerChannel<T>
}

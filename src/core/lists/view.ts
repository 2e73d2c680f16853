import { Bitset } from '../columns/bitset'
import type { ListAccount } from './account'
import type { Line } from './line'

/** Which people of a page to show: a tab (whole or one line's share), or what one line moved. */
export type ListView =
  | { tab: 'on' | 'never' | 'new' }
  | { tab: 'out' | 'unknown'; line?: string }
  | { tab: 'moved'; line: string; column: 'out' | 'unknown' | 'in' | 'stayedUnknown' }

/** The set behind a tab or a figure. A line that is not on the page has nobody; *new* are those not among `since`. */
export function viewOf(account: ListAccount, lines: Line[], view: ListView, since: Bitset | null = null): Bitset {
  switch (view.tab) {
    case 'new':
      return since ? account.on.andNot(since) : new Bitset()
    case 'on':
      return account.on
    case 'never':
      return account.never
    case 'moved':
      return account.moves[lines.findIndex((l) => l.id === view.line)]?.[view.column] ?? new Bitset()
    default: {
      const side = view.tab === 'out' ? 'leftOut' : 'unknown'
      return account.decided
        .filter((_, i) => view.line === undefined || lines[i].id === view.line)
        .reduce((all, d) => all.or(d[side]), new Bitset())
    }
  }
}

/** The deciding line of each of some record numbers, where it has one. */
export function decidedBy(account: ListAccount, lines: Line[], numbers: number[]): ({ line: string; how: 'out' | 'unknown' } | null)[] {
  return numbers.map((n) => {
    if (account.on.has(n) || account.never.has(n)) return null
    const i = account.decided.findIndex((d) => d.leftOut.has(n) || d.unknown.has(n))
    return i < 0 ? null : { line: lines[i].id, how: account.decided[i].leftOut.has(n) ? 'out' : 'unknown' }
  })
}

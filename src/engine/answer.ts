import type { Bitset } from '@/core/columns/bitset'
import { listAccount } from '@/core/lists/account'
import { decidedBy, viewOf } from '@/core/lists/view'
import { type RequalifyAccount, requalifyClear, requalifyListed } from '@/core/rounds/requalify'
import { standingOf } from '@/core/rounds/standing'
import { type ScreeningAccount, screeningAccount } from '@/core/screening/account'
import type { FrozenRounds } from './frozen-rounds'
import type {
  ListAnswer,
  ListRequest,
  ReleaseAnswer,
  ReleaseRequest,
  RequalifyAnswer,
  RequalifyRequest,
  RequalifyView,
  ScreenAnswer,
  ScreeningView,
  ScreenRequest,
} from './protocol'
import type { ReadModel } from './read-model'

type Unmarked<T> = Omit<T, 'behind'>

/** A list's account and a page of the people behind one of its tabs or figures. */
export function answerList({ columns, answers }: ReadModel, { lines, moment, view, page }: ListRequest): Unmarked<ListAnswer> {
  const account = listAccount(lines, columns, answers, moment)
  const set = viewOf(account, lines, view)
  const ids = columns.page(set, page.offset, page.limit)
  const numbers = ids.map((id) => columns.numberFor(id) as number)
  return { figures: account.figures, total: set.count(), ids, decided: decidedBy(account, lines, numbers) }
}

export function answerScreen({ columns, answers }: ReadModel, { lines, rules, moment, view, page }: ScreenRequest): Unmarked<ScreenAnswer> {
  const list = listAccount(lines, columns, answers, moment)
  const account = screeningAccount(list.on, rules, columns, moment)
  const set = screeningSet(account, list.on, view)
  return { figures: account.figures, list: list.figures, total: set.count(), ids: columns.page(set, page.offset, page.limit) }
}

function screeningSet(account: ScreeningAccount, on: Bitset, view: ScreeningView): Bitset {
  switch (view.tab) {
    case 'clear':
      return account.anyone
    case 'held':
      return on.andNot(account.anyone)
    case 'channel':
      return account.clear[view.channel]
    case 'rule': {
      const rule = account.rules[view.rule]
      if (!rule) throw new RangeError(`no rule ${view.rule}`)
      return view.channel ? rule.closed[view.channel] : rule.heldBack
    }
  }
}

/** Both accounts of a list against its last round, and a page of those who left, joined or stayed. */
export async function answerRequalify(model: ReadModel, rounds: FrozenRounds, request: RequalifyRequest): Promise<Unmarked<RequalifyAnswer>> {
  const frozen = await rounds.get(request.round)
  const { columns, answers } = model
  const then = listAccount(request.linesThen, columns, answers, request.moment)
  const now = listAccount(request.linesNow, columns, answers, request.moment)
  const listed = requalifyListed(frozen, then, now, columns)
  const clear = requalifyClear(frozen, now.on, screeningAccount(now.on, request.rules, columns, request.moment), columns)
  const account = request.view.account === 'listed' ? listed : clear
  const { ids, rows } = requalifyPage(account, request.view, request.page)
  return { listed: listed.figures, clear: clear.figures, total: requalifyIds(account, request.view).length, ids, rows }
}

function requalifyIds(account: RequalifyAccount, view: RequalifyView): number[] {
  return view.tab === 'row' ? (account.members[view.row] ?? []) : account[view.tab]
}

function requalifyPage(account: RequalifyAccount, view: RequalifyView, { offset, limit }: { offset: number; limit: number }) {
  const ids = requalifyIds(account, view).slice(offset, offset + limit)
  if (view.tab === 'stayed') return { ids, rows: ids.map(() => -1) }
  const side = view.tab === 'row' ? account.figures.rows[view.row]?.side : view.tab
  const rowOf = new Map<number, number>()
  account.members.forEach((members, row) => {
    if (account.figures.rows[row].side === side) for (const id of members) rowOf.set(id, row)
  })
  return { ids, rows: ids.map((id) => rowOf.get(id) ?? -1) }
}

/** What a release freezes: who is on, where everybody else stands, and the figures to hold the database's own against. */
export function answerRelease({ columns, answers }: ReadModel, { lines, rules, moment }: ReleaseRequest): Unmarked<ReleaseAnswer> {
  const list = listAccount(lines, columns, answers, moment)
  const account = screeningAccount(list.on, rules, columns, moment)
  const standing = standingOf(list, columns)
  const on = columns.page(list.on, 0, Number.POSITIVE_INFINITY)
  return {
    list: list.figures,
    figures: account.figures,
    on,
    tookIn: on.map((id) => list.moves.findLastIndex((move) => move.in.has(columns.numberFor(id) as number))),
    standing: { ids: Buffer.from(standing.ids.buffer).toString('base64'), codes: Buffer.from(standing.codes).toString('base64') },
  }
}

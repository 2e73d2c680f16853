import { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import type { ListAccount } from '../lists/account'
import type { ScreeningAccount } from '../screening/account'
import { type Standing, stood } from './standing'

/** What made somebody join or leave. A line is an index into the round's own edition (`then`) or today's (`now`). */
export type Cause =
  | { by: 'directory' }
  | { by: 'data' | 'edition'; edition: 'then' | 'now'; line: number; how: 'out' | 'unknown' | 'in' }
  | { by: 'list' }
  | { by: 'rule'; when: 'then' | 'now'; rule: number }

/** One row of the account: how many left or joined by one cause, and the balance after it. */
export interface RequalifyRow {
  side: 'left' | 'joined'
  cause: Cause
  count: number
  balance: number
}

/** opening − left + joined = closing; stayed = opening − left. */
export interface RequalifyFigures {
  opening: number
  left: number
  joined: number
  stayed: number
  closing: number
  rows: RequalifyRow[]
}

export interface RequalifyAccount {
  figures: RequalifyFigures
  /** Ids, row by row. Ids and not record numbers: somebody erased or withdrawn may have no number any more. */
  members: number[][]
  left: number[]
  joined: number[]
  stayed: number[]
}

/** A round as it was frozen: where everybody stood, who was clear, and by rule who was held back. */
export interface FrozenRound {
  standing: Standing
  clear: number[]
  heldBack: Map<number, number>
}

/**
 * The account of a list against its last round: S0 the frozen round, S1 its edition on today's data, S2 today's edition
 * on today's data. Somebody gone from S1 left (and somebody new in it joined) by the data; the rest by the new edition.
 */
export function requalifyListed(frozen: FrozenRound, then: ListAccount, now: ListAccount, columns: PeopleColumns): RequalifyAccount {
  const rows = new Rows()
  const stayed: number[] = []
  const stoodBefore = new Bitset(columns.size)
  const { ids, codes } = frozen.standing
  for (let i = 0; i < ids.length; i++) {
    const n = columns.numberFor(ids[i])
    if (n !== undefined) stoodBefore.add(n)
    const was = stood(codes[i])
    const isOn = n !== undefined && now.on.has(n)
    if (was.at === 'on') {
      if (isOn) stayed.push(ids[i])
      else rows.put('left', n === undefined || !columns.live.has(n) ? { by: 'directory' } : leftBy(n, then, now), ids[i])
    } else if (isOn) rows.put('joined', joinedBy(n, 'line' in was ? was : null, then, now), ids[i])
  }
  now.on.forEach((n) => {
    if (stoodBefore.has(n)) return
    const cause: Cause = then.on.has(n) ? { by: 'directory' } : byEdition(n, then, now)
    rows.put('joined', cause, columns.idAt(n))
  })
  return rows.close(codes.reduce((total, code) => total + (code === 0 ? 1 : 0), 0), stayed)
}

function leftBy(n: number, then: ListAccount, now: ListAccount): Cause {
  if (!then.on.has(n)) {
    const line = deciding(n, then)
    return line ? { by: 'data', edition: 'then', ...line } : { by: 'directory' }
  }
  const line = deciding(n, now)
  return line ? { by: 'edition', edition: 'now', ...line } : { by: 'edition', edition: 'now', line: 0, how: 'out' }
}

function joinedBy(n: number, was: { at: 'out' | 'unknown'; line: number } | null, then: ListAccount, now: ListAccount): Cause {
  if (!then.on.has(n)) return byEdition(n, then, now)
  if (was) return { by: 'data', edition: 'then', line: was.line, how: was.at }
  return { by: 'data', edition: 'then', line: tookIn(n, then), how: 'in' }
}

/** Joined by the new edition: the old line that still left them out, or else the new one that took them in. */
function byEdition(n: number, then: ListAccount, now: ListAccount): Cause {
  const line = deciding(n, then)
  if (line) return { by: 'edition', edition: 'then', ...line }
  return { by: 'edition', edition: 'now', line: tookIn(n, now), how: 'in' }
}

function deciding(n: number, account: ListAccount): { line: number; how: 'out' | 'unknown' } | null {
  const line = account.decided.findIndex((d) => d.leftOut.has(n) || d.unknown.has(n))
  return line < 0 ? null : { line, how: account.decided[line].leftOut.has(n) ? 'out' : 'unknown' }
}

function tookIn(n: number, account: ListAccount): number {
  return Math.max(0, account.moves.findLastIndex((move) => move.in.has(n)))
}

/**
 * The account of who is clear. Leavers left the list or are held back now, by the rule that decides; joiners came onto
 * the list or were held back then, by the rule that decided.
 */
export function requalifyClear(frozen: FrozenRound, listed: Bitset, now: ScreeningAccount, columns: PeopleColumns): RequalifyAccount {
  const rows = new Rows()
  const stayed: number[] = []
  const clearThen = new Set(frozen.clear)
  for (const id of frozen.clear) {
    const n = columns.numberFor(id)
    if (n !== undefined && now.anyone.has(n)) stayed.push(id)
    else if (n === undefined || !listed.has(n)) rows.put('left', { by: 'list' }, id)
    else rows.put('left', { by: 'rule', when: 'now', rule: now.rules.findIndex((r) => r.heldBack.has(n)) }, id)
  }
  now.anyone.forEach((n) => {
    const id = columns.idAt(n)
    if (clearThen.has(id)) return
    const rule = frozen.heldBack.get(id)
    rows.put('joined', rule === undefined ? { by: 'list' } : { by: 'rule', when: 'then', rule }, id)
  })
  return rows.close(frozen.clear.length, stayed)
}

class Rows {
  private readonly byKey = new Map<string, { side: 'left' | 'joined'; cause: Cause; ids: number[] }>()

  put(side: 'left' | 'joined', cause: Cause, id: number): void {
    const key = side + JSON.stringify(cause)
    let row = this.byKey.get(key)
    if (!row) this.byKey.set(key, (row = { side, cause, ids: [] }))
    row.ids.push(id)
  }

  close(opening: number, stayed: number[]): RequalifyAccount {
    const rows = [...this.byKey.values()].sort((a, b) => rank(a) - rank(b))
    const of = (side: string) => rows.filter((row) => row.side === side).flatMap((row) => row.ids)
    const [left, joined] = [of('left'), of('joined')]
    let balance = opening
    const figures = rows.map(({ side, cause, ids }) => {
      balance += side === 'left' ? -ids.length : ids.length
      return { side, cause, count: ids.length, balance }
    })
    return {
      figures: { opening, left: left.length, joined: joined.length, stayed: stayed.length, closing: balance, rows: figures },
      members: rows.map((row) => row.ids),
      left,
      joined,
      stayed,
    }
  }
}

/** Leavers first; within a side the directory, then the data, then the new edition, each by line; then the rules. */
function rank({ side, cause }: { side: string; cause: Cause }): number {
  const group = { directory: 0, list: 0, data: 1, edition: 2, rule: 3 }[cause.by]
  const at = 'line' in cause ? cause.line * 3 + ['out', 'unknown', 'in'].indexOf(cause.how) : 'rule' in cause ? cause.rule : 0
  return (side === 'left' ? 0 : 1e6) + group * 1e4 + at
}

import { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import type { ListAccount } from '../lists/account'
import type { ScreeningAccount } from '../screening/account'
import { type Standing, stood } from './standing'

/**
 * What made somebody join or leave. A line is an index into the round's own edition (`then`) or today's (`now`); of `then`, `part` says into
 * which supplement's, from 1, where it is not the round's own.
 */
export type Cause =
  | { by: 'directory' }
  | { by: 'data' | 'edition'; edition: 'then' | 'now'; part?: number; line: number; how: 'out' | 'unknown' | 'in' }
  | { by: 'list' }
  | { by: 'rule'; when: 'then' | 'now'; rule: string }

type Side = 'left' | 'joined'

/** One row of the account: how many left or joined by one cause, and the balance after it. */
export interface RequalifyRow {
  side: Side
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

/** People behind a figure: a set, and the ids of those that have no record number any more. */
export interface Crowd {
  set: Bitset
  gone: readonly number[]
}

export interface RequalifyAccount {
  figures: RequalifyFigures
  /** Row by row, in the order of the figures. */
  members: Crowd[]
  left: Crowd
  joined: Crowd
  stayed: Crowd
}

/** A round as it was frozen: where everybody stood, who was clear, by which rule everybody else was held back, and the order of its rules. */
export interface FrozenRound {
  standing: Standing
  clear: number[]
  /** The id of a rule by the id of a person. */
  heldBack: Map<number, string>
  rules: string[]
}

/** The same as sets over columns. Record numbers are never reused, so they are good for as long as the columns are. */
export interface FrozenSets {
  /** By code of the standing: 0 on the list, 1 never on the page, then by line. */
  stood: Map<number, Bitset>
  anywhere: Bitset
  /** On the list then, and without a record number now. */
  goneListed: number[]
  clear: Bitset
  goneClear: number[]
  /** By the id of a rule, in the order of the round's rules. */
  heldBack: Map<string, Bitset>
  listed: number
  /** Whether everybody in the round has a record number. */
  complete: boolean
}

/** A round as it was frozen, or a supplement of it, and the lines it was frozen with, as they come out today. */
export interface FrozenPart {
  sets: FrozenSets
  then: ListAccount
}

/** Returns the sets of a frozen round over today's records. Whoever is no longer there is kept by id. */
export function frozenSets({ standing, clear, heldBack, rules }: FrozenRound, columns: PeopleColumns): FrozenSets {
  const stoodSets = new Map<number, Bitset>()
  const anywhere = new Bitset(columns.size)
  const goneListed: number[] = []
  let complete = true
  const { ids, codes } = standing
  let listed = 0
  for (let i = 0; i < ids.length; i++) {
    const n = columns.numberFor(ids[i])
    if (codes[i] === 0) listed++
    if (n === undefined) {
      complete = false
      if (codes[i] === 0) goneListed.push(ids[i])
      continue
    }
    anywhere.add(n)
    setFor(stoodSets, codes[i], columns).add(n)
  }
  const held = new Map(rules.map((rule) => [rule, new Bitset(columns.size)]))
  for (const [id, rule] of heldBack) {
    const n = columns.numberFor(id)
    if (n !== undefined) setFor(held, rule, columns).add(n)
  }
  return {
    stood: stoodSets,
    anywhere,
    goneListed,
    clear: columns.numbers(clear),
    goneClear: clear.filter((id) => columns.numberFor(id) === undefined),
    heldBack: held,
    listed,
    complete,
  }
}

function setFor<K>(sets: Map<K, Bitset>, key: K, columns: PeopleColumns): Bitset {
  let set = sets.get(key)
  if (!set) sets.set(key, (set = new Bitset(columns.size)))
  return set
}

/**
 * The account of a list against its last round: S0 the frozen round with its supplements, S1 its edition on today's data, S2 today's edition
 * on today's data. Somebody gone from S1 left (and somebody new in it joined) by the data; the rest by the new edition. Whoever came with a
 * supplement is held against the edition of that; joiners against the round's own. `parts` begins with the round itself.
 */
export function requalifyListed(parts: readonly FrozenPart[], now: ListAccount, columns: PeopleColumns): RequalifyAccount {
  const rows = new Rows()
  let s0 = new Bitset()
  parts.forEach(({ sets, then: own }, part) => {
    // Two records of two parts may have been merged since: then they are counted once, with the first.
    const listed = (sets.stood.get(0) ?? new Bitset()).andNot(s0)
    s0 = s0.or(listed)
    const left = listed.andNot(now.on)
    rows.put('left', { by: 'directory' }, left.andNot(columns.live), sets.goneListed)
    const leavers = left.and(columns.live)
    const byData = rows.decided('left', 'data', 'then', leavers.andNot(own.on), own, part)
    rows.put('left', { by: 'directory' }, byData)
    const byEdition = rows.decided('left', 'edition', 'now', leavers.and(own.on), now)
    rows.put('left', { by: 'edition', edition: 'now', line: 0, how: 'out' }, byEdition)
  })
  const [{ sets: frozen, then }] = parts
  const joined = now.on.andNot(s0)
  const fresh = joined.andNot(frozen.anywhere)
  rows.put('joined', { by: 'directory' }, fresh.and(then.on))
  const known = joined.and(frozen.anywhere).and(then.on)
  for (const [code, set] of frozen.stood) {
    const was = stood(code)
    const here = known.and(set)
    if ('line' in was) rows.put('joined', { by: 'data', edition: 'then', line: was.line, how: was.at }, here)
    else if (was.at === 'never') rows.takenIn('joined', 'data', 'then', here, then)
  }
  const newly = rows.decided('joined', 'edition', 'then', joined.andNot(then.on), then)
  rows.takenIn('joined', 'edition', 'now', newly, now)
  const gone = parts.reduce((sum, { sets }) => sum + sets.goneListed.length, 0)
  return rows.close(s0.count() + gone, { set: s0.and(now.on), gone: [] })
}

/**
 * The account of who is clear. Leavers left the list or are held back now, by the rule that decides; joiners came onto
 * the list or were held back then, by the rule that decided.
 */
export function requalifyClear(parts: readonly Pick<FrozenPart, 'sets'>[], listed: Bitset, now: ScreeningAccount): RequalifyAccount {
  const rows = new Rows()
  const frozen = clearTogether(parts.map(({ sets }) => sets))
  const left = frozen.clear.andNot(now.anyone)
  rows.put('left', { by: 'list' }, left.andNot(listed), frozen.goneClear)
  for (const { rule, heldBack } of now.rules) rows.put('left', { by: 'rule', when: 'now', rule }, left.and(listed).and(heldBack))
  let joined = now.anyone.andNot(frozen.clear)
  for (const [rule, set] of frozen.heldBack) {
    rows.put('joined', { by: 'rule', when: 'then', rule }, joined.and(set))
    joined = joined.andNot(set)
  }
  rows.put('joined', { by: 'list' }, joined)
  return rows.close(frozen.clear.count() + frozen.goneClear.length, { set: frozen.clear.and(now.anyone), gone: [] })
}

/** Who was clear in a round or in one of its supplements, and by which rule others were held back. */
function clearTogether(parts: readonly FrozenSets[]): Pick<FrozenSets, 'clear' | 'goneClear' | 'heldBack'> {
  if (parts.length === 1) return parts[0]
  const heldBack = new Map<string, Bitset>()
  for (const part of parts) for (const [rule, set] of part.heldBack) heldBack.set(rule, (heldBack.get(rule) ?? new Bitset()).or(set))
  return {
    clear: parts.reduce((all, part) => all.or(part.clear), new Bitset()),
    goneClear: parts.flatMap((part) => part.goneClear),
    heldBack,
  }
}

class Rows {
  private readonly byKey = new Map<string, { side: Side; cause: Cause; crowd: Crowd }>()

  put(side: Side, cause: Cause, set: Bitset, gone: readonly number[] = []): void {
    if (gone.length === 0 && set.isEmpty()) return
    const key = side + JSON.stringify(cause)
    const known = this.byKey.get(key)?.crowd
    this.byKey.set(key, { side, cause, crowd: known ? { set: known.set.or(set), gone: [...known.gone, ...gone] } : { set, gone } })
  }

  /** Puts those whom lines of an account decided on, by line; returns the rest. */
  decided(side: Side, by: 'data' | 'edition', edition: 'then' | 'now', people: Bitset, account: ListAccount, part = 0): Bitset {
    const at = part === 0 ? {} : { part }
    let rest = people
    account.decided.forEach(({ leftOut, unknown }, line) => {
      this.put(side, { by, edition, line, ...at, how: 'out' }, rest.and(leftOut))
      this.put(side, { by, edition, line, ...at, how: 'unknown' }, rest.and(unknown))
      rest = rest.andNot(leftOut).andNot(unknown)
    })
    return rest
  }

  /** Puts those whom lines of an account took in, by the last that did. */
  takenIn(side: Side, by: 'data' | 'edition', edition: 'then' | 'now', people: Bitset, account: ListAccount): void {
    let rest = people
    for (let line = account.moves.length - 1; line >= 0; line--) {
      this.put(side, { by, edition, line, how: 'in' }, rest.and(account.moves[line].in))
      rest = rest.andNot(account.moves[line].in)
    }
    this.put(side, { by, edition, line: 0, how: 'in' }, rest)
  }

  close(opening: number, stayed: Crowd): RequalifyAccount {
    const rows = [...this.byKey.values()].sort((a, b) => rank(a) - rank(b))
    let balance = opening
    const figures = rows.map(({ side, cause, crowd }) => {
      const count = countOf(crowd)
      balance += side === 'left' ? -count : count
      return { side, cause, count, balance }
    })
    const of = (wanted: Side): Crowd => {
      const crowds = rows.filter(({ side }) => side === wanted).map(({ crowd }) => crowd)
      return { set: crowds.reduce((all, c) => all.or(c.set), new Bitset()), gone: crowds.flatMap((c) => c.gone) }
    }
    const [left, joined] = [of('left'), of('joined')]
    return {
      figures: { opening, left: countOf(left), joined: countOf(joined), stayed: countOf(stayed), closing: balance, rows: figures },
      members: rows.map(({ crowd }) => crowd),
      left,
      joined,
      stayed,
    }
  }
}

/** Returns how many people a crowd has, those who are gone included. */
export const countOf = ({ set, gone }: Crowd): number => set.count() + gone.length

/** Leavers first; within a side the directory, then the data, then the new edition, each by line; then the rules. */
function rank({ side, cause }: { side: string; cause: Cause }): number {
  const group = { directory: 0, list: 0, data: 1, edition: 2, rule: 3 }[cause.by]
  // Rules were put in their order, and the sort keeps it.
  const at = 'line' in cause ? cause.line * 3 + ['out', 'unknown', 'in'].indexOf(cause.how) : 0
  return (side === 'left' ? 0 : 1e6) + group * 1e4 + at
}

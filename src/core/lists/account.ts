import { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import type { Moment } from '../criteria/kind'
import type { Answers } from '../criteria/registry'
import type { Line } from './line'

/** What one line did. Balance before − out − unknown + in = balance. */
export interface LineFigures {
  id: string
  out: number
  unknown: number
  in: number
  balance: number
  /** Drop: how many of whom it is unknown stayed on. */
  stayedUnknown: number
  /** Add: how many of those taken in had been on before. */
  cameBack: number
  /** How many the list would hold without this line. */
  without: number
}

export interface ListFigures {
  lines: LineFigures[]
  totals: { out: number; unknown: number; in: number; balance: number }
  /** Records, not movements: on + leftOut + unknown + never = directory. */
  tabs: { on: number; leftOut: number; unknown: number; never: number; directory: number; byLine: { id: string; leftOut: number; unknown: number }[] }
}

/** A list's page worked out: its figures, and the sets behind every one of them. */
export interface ListAccount {
  figures: ListFigures
  on: Bitset
  never: Bitset
  moves: { out: Bitset; unknown: Bitset; in: Bitset; stayedUnknown: Bitset }[]
  /** By line: those whose deciding line it is. A record is in exactly one of these, `on` or `never`. */
  decided: { leftOut: Bitset; unknown: Bitset }[]
}

/** Each line is B → (B ∧ keep) ∨ take: what it lets stay and what it takes in. */
interface Step {
  keep: Bitset
  take: Bitset
  out: Bitset
  unknown: Bitset
  stays: Bitset
}

/**
 * Works out a page. Lines that are off move nobody and keep the balance. Cost: one evaluation a criterion that is
 * not kept, and some dozen passes over the bits a line.
 */
export function listAccount(lines: Line[], columns: PeopleColumns, answers: Answers, moment: Moment): ListAccount {
  const live = columns.live
  const none = new Bitset(columns.size)
  const steps = lines.map((line) => stepOf(line, columns, answers, moment, none))
  const before: Bitset[] = []
  const moves: ListAccount['moves'] = []
  const cameBack: number[] = []
  let on = none
  let seen = none
  for (const step of steps) {
    before.push(on)
    const taken = step.take.andNot(on)
    cameBack.push(taken.countAnd(seen))
    moves.push({ out: on.and(step.out), unknown: on.and(step.unknown), in: taken, stayedUnknown: on.and(step.stays) })
    on = on.and(step.keep).or(step.take)
    seen = seen.or(on)
  }
  const without = withoutEach(steps, before, live, none)
  const decided = decidingLines(moves, on, live)
  let balance = 0
  const figures = lines.map((line, i): LineFigures => {
    const [out, unknown, taken] = [moves[i].out.count(), moves[i].unknown.count(), moves[i].in.count()]
    balance += taken - out - unknown
    return { id: line.id, out, unknown, in: taken, balance, stayedUnknown: moves[i].stayedUnknown.count(), cameBack: cameBack[i], without: without[i] }
  })
  const sum = (of: (f: LineFigures) => number) => figures.reduce((total, f) => total + of(f), 0)
  const byLine = decided.lines.map((d, i) => ({ id: lines[i].id, leftOut: d.leftOut.count(), unknown: d.unknown.count() }))
  return {
    on,
    never: decided.never,
    moves,
    decided: decided.lines,
    figures: {
      lines: figures,
      totals: { out: sum((f) => f.out), unknown: sum((f) => f.unknown), in: sum((f) => f.in), balance: on.count() },
      tabs: {
        on: on.count(),
        leftOut: byLine.reduce((total, d) => total + d.leftOut, 0),
        unknown: byLine.reduce((total, d) => total + d.unknown, 0),
        never: decided.never.count(),
        directory: live.count(),
        byLine,
      },
    },
  }
}

function stepOf(line: Line, columns: PeopleColumns, answers: Answers, moment: Moment, none: Bitset): Step {
  const live = columns.live
  if (line.off) return { keep: live, take: none, out: none, unknown: none, stays: none }
  if (line.verb === 'start') {
    const take = line.batch ? (columns.batches.get(line.batch.id) ?? none).and(live) : live
    return { keep: live, take, out: none, unknown: none, stays: none }
  }
  const { yes, unknown } = answers.of(line.criterion, moment)
  switch (line.verb) {
    case 'keep': {
      const passes = line.unknownAsYes ? yes.or(unknown) : yes
      return { keep: passes, take: none, out: live.andNot(yes).andNot(unknown), unknown: line.unknownAsYes ? none : unknown, stays: none }
    }
    case 'drop':
      return { keep: live.andNot(yes), take: none, out: yes, unknown: none, stays: unknown }
    case 'add':
      return { keep: live, take: yes.and(live), out: none, unknown: none, stays: none }
  }
}

/** The list without each line in turn, by composing the lines after it into one step. */
function withoutEach(steps: Step[], before: Bitset[], live: Bitset, none: Bitset): number[] {
  const counts = new Array<number>(steps.length)
  let keep = live
  let take = none
  for (let i = steps.length - 1; i >= 0; i--) {
    counts[i] = before[i].and(keep).or(take).count()
    take = steps[i].take.and(keep).or(take)
    keep = steps[i].keep.and(keep)
  }
  return counts
}

/** The deciding line of a record that is not on is the last one that took it out. */
function decidingLines(moves: ListAccount['moves'], on: Bitset, live: Bitset) {
  let rest = live.andNot(on)
  const lines = new Array<ListAccount['decided'][number]>(moves.length)
  for (let i = moves.length - 1; i >= 0; i--) {
    const leftOut = moves[i].out.and(rest)
    const unknown = moves[i].unknown.and(rest)
    rest = rest.andNot(leftOut).andNot(unknown)
    lines[i] = { leftOut, unknown }
  }
  return { lines, never: rest }
}

import { localDate } from '../calendar/local-day'
import { Bitset } from '../columns/bitset'
import type { SubjectColumns } from '../columns/subject-columns'
import type { Answer, Moment } from '../criteria/kind'
import type { Answers, Criterion } from '../criteria/registry'
import { groupsBy } from './group'
import { type LimitLine, type Line, type PickLine, pickKey, subjectOf } from './line'
import { ranked } from './rank'

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
  /** Limit by a grouping: how many have no value of it and are not limited. */
  notLimited: number
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

/** Each line but a limit is B → (B ∧ keep) ∨ take: what it lets stay and what it takes in. */
interface Step {
  keep: Bitset
  take: Bitset
  out: Bitset
  unknown: Bitset
  stays: Bitset
}

/**
 * Works out a page. Lines that are off move nobody and keep the balance. Cost: one evaluation a criterion that is
 * not kept, and some dozen passes over the bits a line; a limit ranks who is on at that point.
 */
export function listAccount(lines: Line[], columns: SubjectColumns, answers: Answers, moment: Moment): ListAccount {
  const live = columns.live
  const none = new Bitset(columns.size)
  const subject = subjectOf(lines)
  const steps = lines.map((line): Step | LimitLine => (line.verb === 'limit' && !line.off ? line : stepOf(line, columns, (criterion) => answers.of(criterion, moment, subject), moment, none)))
  const before: Bitset[] = []
  const moves: ListAccount['moves'] = []
  const cameBack: number[] = []
  const notLimited: number[] = []
  const sizeOf = (set: Bitset) => (set === none ? 0 : set.count())
  let on = none
  let seen = none
  for (const step of steps) {
    before.push(on)
    notLimited.push(0)
    if ('verb' in step) {
      const limited = limit(step, on, columns)
      moves.push({ out: on.andNot(limited.on), unknown: none, in: none, stayedUnknown: none })
      cameBack.push(0)
      notLimited[notLimited.length - 1] = limited.notLimited
      on = limited.on
      continue
    }
    const taken = step.take === none ? none : step.take.andNot(on)
    cameBack.push(taken === none ? 0 : taken.countAnd(seen))
    moves.push({ out: both(on, step.out, none), unknown: both(on, step.unknown, none), in: taken, stayedUnknown: both(on, step.stays, none) })
    on = through(step, on, live, none)
    // Whoever a line takes out was seen before.
    if (taken !== none) seen = seen.or(on)
  }
  const without = withoutEach(steps, before, columns, none)
  const decided = decidingLines(moves, on, live, none)
  let balance = 0
  const figures = lines.map((line, i): LineFigures => {
    const [out, unknown, taken] = [sizeOf(moves[i].out), sizeOf(moves[i].unknown), sizeOf(moves[i].in)]
    balance += taken - out - unknown
    return {
      id: line.id,
      out,
      unknown,
      in: taken,
      balance,
      stayedUnknown: sizeOf(moves[i].stayedUnknown),
      cameBack: cameBack[i],
      notLimited: notLimited[i],
      without: without[i],
    }
  })
  const sum = (of: (f: LineFigures) => number) => figures.reduce((total, f) => total + of(f), 0)
  const byLine = decided.lines.map((d, i) => ({ id: lines[i].id, leftOut: sizeOf(d.leftOut), unknown: sizeOf(d.unknown) }))
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

/** Members of both sets. Most lines leave most of their sets empty, and a pass over a million bits is what an account costs. */
const both = (a: Bitset, b: Bitset, none: Bitset): Bitset => (a === none || b === none ? none : a.and(b))

/** Who is on after a step. */
function through({ keep, take }: Step, on: Bitset, live: Bitset, none: Bitset): Bitset {
  const kept = keep === live ? on : both(on, keep, none)
  return take === none ? kept : kept === none ? take : kept.or(take)
}

function stepOf(line: Line, columns: SubjectColumns, answer: (criterion: Criterion) => Answer, moment: Moment, none: Bitset): Step {
  const live = columns.live
  if (line.off || line.verb === 'limit') return { keep: live, take: none, out: none, unknown: none, stays: none }
  if (line.verb === 'start') {
    const take = line.batch ? (columns.batches.get(line.batch.id) ?? none).and(live) : live
    return { keep: live, take, out: none, unknown: none, stays: none }
  }
  if (line.verb === 'pick') {
    const picked = pickHolds(line, moment) ? pickedBy(line, moment).and(live) : none
    if (line.side === 'in') return { keep: live, take: picked, out: none, unknown: none, stays: none }
    return { keep: live.andNot(picked), take: none, out: picked, unknown: none, stays: none }
  }
  const { yes, unknown } = answer(line.criterion)
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

/** Whether a pick still holds: to the end of its last date, in the list's zone. */
export function pickHolds(line: PickLine, { asOf, zone }: Moment): boolean {
  return line.until === null || localDate(asOf, zone) <= line.until
}

function pickedBy(line: PickLine, moment: Moment): Bitset {
  const members = moment.members?.get(pickKey(line))
  if (!members) throw new Error('the people who were picked are not at hand')
  return members.set
}

/** Who stays on under a limit. A record without the grouping value is not limited. */
function limit({ most, per, rank, seed }: LimitLine, on: Bitset, columns: SubjectColumns): { on: Bitset; notLimited: number } {
  if (per === 'all' && on.count() <= most) return { on, notLimited: 0 }
  const stay = new Bitset(columns.size)
  if (per === 'all') {
    for (const n of ranked(on, rank, columns, seed).subarray(0, most)) stay.add(n)
    return { on: stay, notLimited: 0 }
  }
  const groupOf = groupsBy(per, columns)
  const taken = new Map<number | string, number>()
  let notLimited = 0
  for (const n of ranked(on, rank, columns, seed)) {
    const group = groupOf(n)
    if (group === null) {
      notLimited++
      stay.add(n)
      continue
    }
    const already = taken.get(group) ?? 0
    if (already >= most) continue
    taken.set(group, already + 1)
    stay.add(n)
  }
  return { on: stay, notLimited }
}

/**
 * The list without each line in turn. Lines after the last limit are composed into one step; before it each is left out
 * and the rest is replayed.
 */
function withoutEach(steps: (Step | LimitLine)[], before: Bitset[], columns: SubjectColumns, none: Bitset): number[] {
  const counts = new Array<number>(steps.length)
  let keep = columns.live
  let take = none
  let i = steps.length - 1
  for (; i >= 0; i--) {
    counts[i] = take === none ? before[i].countAnd(keep) : before[i].and(keep).or(take).count()
    const step = steps[i]
    if ('verb' in step) break
    const kept = both(step.take, keep, none)
    take = take === none ? kept : kept === none ? take : kept.or(take)
    keep = step.keep === columns.live ? keep : step.keep.and(keep)
  }
  for (i--; i >= 0; i--) counts[i] = steps.slice(i + 1).reduce((on, step) => replay(step, on, columns, none), before[i]).count()
  return counts
}

function replay(step: Step | LimitLine, on: Bitset, columns: SubjectColumns, none: Bitset): Bitset {
  return 'verb' in step ? limit(step, on, columns).on : through(step, on, columns.live, none)
}

/** The deciding line of a record that is not on is the last one that took it out. */
function decidingLines(moves: ListAccount['moves'], on: Bitset, live: Bitset, none: Bitset) {
  let rest = live.andNot(on)
  const lines = new Array<ListAccount['decided'][number]>(moves.length)
  for (let i = moves.length - 1; i >= 0; i--) {
    const leftOut = both(moves[i].out, rest, none)
    const unknown = both(moves[i].unknown, rest, none)
    if (leftOut !== none) rest = rest.andNot(leftOut)
    if (unknown !== none) rest = rest.andNot(unknown)
    lines[i] = { leftOut, unknown }
  }
  return { lines, never: rest }
}

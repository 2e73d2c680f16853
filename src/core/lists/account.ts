import { localDate } from '../calendar/local-day'
import { bits } from '../columns/bit-kernel'
import { Bitset } from '../columns/bitset'
import { SUBJECTS } from '../records/subject'
import type { SubjectColumns } from '../columns/subject-columns'
import type { Answer, Moment } from '../criteria/kind'
import type { Answers, Criterion } from '../criteria/registry'
import { membersOf } from '../criteria/list'
import { learnt, scoreOf } from '../facets/alike'
import { groupsBy } from './group'
import { type LimitLine, type Line, type PickLine, pickKey, subjectOf } from './line'
import { BEST_FIT, bestFirst, ranked, rankedBy } from './rank'

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
  tabs: {
    on: number
    leftOut: number
    unknown: number
    never: number
    directory: number
    byLine: { id: string; leftOut: number; unknown: number }[]
  }
}

/** A list's page worked out: its figures, and the sets behind every one of them. */
export interface ListAccount {
  figures: ListFigures
  on: Bitset
  never: Bitset
  moves: MovedBy[]
  /** By line: those whose deciding line it is. A record is in exactly one of these, `on` or `never`. */
  decided: Decided[]
}

/** Whom one line moved, and whom it let stay although it is unknown. */
export interface MovedBy {
  readonly out: Bitset
  readonly unknown: Bitset
  readonly in: Bitset
  readonly stayedUnknown: Bitset
}

/** Those whose deciding line a line is. */
export interface Decided {
  readonly leftOut: Bitset
  readonly unknown: Bitset
}

/**
 * Each line but a limit is B → (B ∧ keep) ∨ take: what it lets stay and what it takes in. Where `pass` is set, those in it stay,
 * or, where it is turned round, those not in it. `unknown` goes out in its own column, `stays` is unknown to a drop and told.
 */
interface Step {
  pass: Bitset | null
  round: boolean
  unknown: Bitset | null
  stays: Bitset | null
  take: Bitset | null
}

const NOTHING: Step = { pass: null, round: false, unknown: null, stays: null, take: null }

/**
 * Works out a page. Lines that are off move nobody and keep the balance. Cost: one evaluation a criterion that is
 * not kept, and two passes over the bits a line, in which everything that is counted is counted; the sets behind the figures
 * are made when they are asked for. A limit ranks who is on at that point.
 */
export function listAccount(lines: Line[], columns: SubjectColumns, answers: Answers, moment: Moment): ListAccount {
  const live = columns.live
  const none = new Bitset(columns.size)
  const subject = subjectOf(lines)
  const steps = lines.map((line): Step | LimitLine =>
    line.verb === 'limit' && !line.off ? line : stepOf(line, columns, (criterion) => answers.of(criterion, moment, subject), moment),
  )
  const before: Bitset[] = []
  const counted: Counted[] = []
  let on = none
  let many = 0
  let seen = none
  for (const step of steps) {
    before.push(on)
    if ('verb' in step) {
      const limited = limit(step, on, columns, moment)
      const left = limited.on.count()
      counted.push({ ...ZERO, out: many - left, notLimited: limited.notLimited })
      on = limited.on
      many = left
      continue
    }
    const after = through(step, on, many, seen)
    counted.push(after.counts)
    on = after.next
    many = after.many
    // Whoever a line takes out was seen before.
    if (step.take) seen = seen === none ? on : seen.or(on)
  }
  before.push(on)
  const moves = steps.map((step, i) => new Moves(step, before[i], before[i + 1], none))
  const decided = decidingLines(steps, moves, on, live, none)
  const without = withoutEach(steps, before, columns, moment)
  let balance = 0
  const figures = lines.map((line, i): LineFigures => {
    const { out, unknown, taken, stayed, cameBack, notLimited } = counted[i]
    balance += taken - out - unknown
    return { id: line.id, out, unknown, in: taken, balance, stayedUnknown: stayed, cameBack, notLimited, without: without[i] }
  })
  const sum = (of: (f: LineFigures) => number) => figures.reduce((total, f) => total + of(f), 0)
  // From the last line that takes anybody in on, whoever is taken out stays out: the line that moved them decides.
  const byLine = decided.lines.map((d, i) => ({
    id: lines[i].id,
    leftOut: i > decided.lastTake ? counted[i].out : d.leftOut.count(),
    unknown: i > decided.lastTake ? counted[i].unknown : d.unknown.count(),
  }))
  const never = decided.never.count()
  return {
    on,
    never: decided.never,
    moves,
    decided: decided.lines,
    figures: {
      lines: figures,
      totals: { out: sum((f) => f.out), unknown: sum((f) => f.unknown), in: sum((f) => f.in), balance },
      tabs: {
        on: balance,
        leftOut: byLine.reduce((total, d) => total + d.leftOut, 0),
        unknown: byLine.reduce((total, d) => total + d.unknown, 0),
        never,
        directory: live.count(),
        byLine,
      },
    },
  }
}

interface Counted {
  out: number
  unknown: number
  taken: number
  stayed: number
  cameBack: number
  notLimited: number
}
const ZERO: Counted = { out: 0, unknown: 0, taken: 0, stayed: 0, cameBack: 0, notLimited: 0 }

/** Who is on after a step, and how many it moved, in one pass. `many` were on before it. */
function through(
  { pass, round, unknown, stays, take }: Step,
  on: Bitset,
  many: number,
  seen: Bitset,
): { next: Bitset; many: number; counts: Counted } {
  if (pass) {
    const { next, stay, unknown: open, stayed } = bits().pass(on.words, pass.words, round, unknown?.words ?? null, stays?.words ?? null)
    return { next: Bitset.of(next), many: stay, counts: { ...ZERO, out: many - stay - open, unknown: open, stayed } }
  }
  if (take) {
    const { next, fresh, back } = bits().take(on.words, take.words, seen.words)
    return { next: Bitset.of(next), many: many + fresh, counts: { ...ZERO, taken: fresh, cameBack: back } }
  }
  return { next: on, many, counts: ZERO }
}

/** The sets behind what one line moved, each made when it is asked for. */
class Moves implements MovedBy {
  private readonly made: { -readonly [K in keyof MovedBy]?: Bitset } = {}

  constructor(
    private readonly step: Step | LimitLine,
    private readonly before: Bitset,
    private readonly after: Bitset,
    private readonly none: Bitset,
  ) {}

  get out(): Bitset {
    const { step, before, after, none } = this
    if ('verb' in step) return (this.made.out ??= before.andNot(after))
    if (!step.pass) return none
    const gone = step.round ? before.and(step.pass) : before.andNot(step.pass)
    return (this.made.out ??= step.unknown ? gone.andNot(step.unknown) : gone)
  }

  get unknown(): Bitset {
    const { step, before, none } = this
    return 'verb' in step || !step.unknown ? none : (this.made.unknown ??= before.and(step.unknown))
  }

  get in(): Bitset {
    const { step, before, none } = this
    return 'verb' in step || !step.take ? none : (this.made.in ??= step.take.andNot(before))
  }

  get stayedUnknown(): Bitset {
    const { step, before, none } = this
    return 'verb' in step || !step.stays ? none : (this.made.stayedUnknown ??= before.and(step.stays))
  }
}

function stepOf(line: Line, columns: SubjectColumns, answer: (criterion: Criterion) => Answer, moment: Moment): Step {
  const live = columns.live
  if (line.off || line.verb === 'limit') return NOTHING
  if (line.verb === 'start') return { ...NOTHING, take: line.batch ? (columns.batches.get(line.batch.id) ?? new Bitset()).and(live) : live }
  if (line.verb === 'pick') {
    const picked = pickHolds(line, moment) ? pickedBy(line, moment).and(live) : new Bitset()
    return line.side === 'in' ? { ...NOTHING, take: picked } : { ...NOTHING, pass: picked, round: true }
  }
  const { yes, unknown } = answer(line.criterion)
  switch (line.verb) {
    case 'keep':
      return line.unknownAsYes ? { ...NOTHING, pass: yes.or(unknown) } : { ...NOTHING, pass: yes, unknown }
    case 'drop':
      return { ...NOTHING, pass: yes, round: true, stays: unknown }
    case 'add':
      return { ...NOTHING, take: yes.and(live) }
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
function limit(line: LimitLine, on: Bitset, columns: SubjectColumns, moment: Moment): { on: Bitset; notLimited: number } {
  const { most, per } = line
  if (per === 'all' && on.count() <= most) return { on, notLimited: 0 }
  const stay = new Bitset(columns.size)
  if (per === 'all') {
    for (const n of inRank(line, on, columns, moment).subarray(0, most)) stay.add(n)
    return { on: stay, notLimited: 0 }
  }
  const groupOf = groupsBy(per, columns)
  const taken = new Map<number | string, number>()
  let notLimited = 0
  for (const n of inRank(line, on, columns, moment)) {
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

/** Who is on, from who comes first under a limit to who comes last. */
function inRank({ rank, seed, like }: LimitLine, on: Bitset, columns: SubjectColumns, moment: Moment): Int32Array {
  if (rank !== BEST_FIT) return ranked(on, rank, columns, seed)
  const examples = membersOf({ list: like as { id: number; name: string }, edition: null }, moment).set.and(columns.live)
  const subject = SUBJECTS.find((s) => columns.directory.of(s) === columns) ?? 'person'
  const likeness = learnt(examples, columns.live, subject, columns.directory, moment)
  return rankedBy(on, (n) => bestFirst(scoreOf(likeness, n)), columns)
}

/**
 * The list without each line in turn. Lines after the last limit are composed into one step, a pass a line; before it each
 * is left out and the rest is replayed.
 */
function withoutEach(steps: (Step | LimitLine)[], before: Bitset[], columns: SubjectColumns, moment: Moment): number[] {
  const counts = new Array<number>(steps.length)
  const composer = bits().composer(columns.live.words)
  let i = steps.length - 1
  for (; i >= 0; i--) {
    const step = steps[i]
    const { pass, round, take } = 'verb' in step ? NOTHING : step
    counts[i] = composer.put(before[i].words, pass?.words ?? null, round, take?.words ?? null)
    if ('verb' in step) break
  }
  for (i--; i >= 0; i--)
    counts[i] = steps
      .slice(i + 1)
      .reduce((on, step) => ('verb' in step ? limit(step, on, columns, moment).on : through(step, on, 0, on).next), before[i])
      .count()
  return counts
}

/**
 * The deciding line of a record that is not on is the last one that took it out. From the last line that takes anybody in on,
 * that is whichever line moved them.
 */
function decidingLines(
  steps: (Step | LimitLine)[],
  moves: Moves[],
  on: Bitset,
  live: Bitset,
  none: Bitset,
): { lines: Decided[]; never: Bitset; lastTake: number } {
  const lastTake = steps.findLastIndex((step) => !('verb' in step) && step.take !== null)
  const lines: Decided[] = moves.map((move) => ({
    get leftOut() {
      return move.out
    },
    get unknown() {
      return move.unknown
    },
  }))
  // A start takes in and nobody was out before it: then all lines are after the last taking, and who it took is who was ever on.
  const first = steps[0]
  if (lastTake <= 0)
    return { lines, never: lastTake < 0 || 'verb' in first || !first.take ? live.andNot(on) : live.andNot(first.take), lastTake }
  let rest = live.andNot(on)
  for (let i = moves.length - 1; i >= 0; i--) {
    const leftOut = both(moves[i].out, rest, none)
    const unknown = both(moves[i].unknown, rest, none)
    if (leftOut !== none) rest = rest.andNot(leftOut)
    if (unknown !== none) rest = rest.andNot(unknown)
    lines[i] = { leftOut, unknown }
  }
  return { lines, never: rest, lastTake: moves.length }
}

/** Members of both sets. */
const both = (a: Bitset, b: Bitset, none: Bitset): Bitset => (a === none || b === none ? none : a.and(b))

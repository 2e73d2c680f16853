import { datePlusDays } from '../calendar/local-day'
import type { Day, Interval, Sighting, Sure } from './sighting'

/** An edge of a timeline: a field was one thing and then another. */
export interface Edge extends Interval {
  from: string
  to: string
  /** Entries that say the new value, in the order of their days, then of their numbers. */
  reports: number[]
  /** An entry that says the old value. */
  fromEntry: number
  /** How many sources say the new value. */
  sources: number
  sure: Sure
  /** A source that never saw the newer value still says the older one. */
  disagrees: boolean
}

/** A stretch in which a field was one thing. */
interface Run {
  value: string
  sightings: Sighting[]
}

/**
 * The changes of one field of one record, from everything that was ever reported of it. They depend on the set of reports and not
 * on the order in which they came. A change happened after the last day on which the field was seen otherwise and by the first day
 * on which it was seen so; a source that states the day narrows that to the day. Where a source goes back to an older value without
 * ever having seen the newer one, it disagrees; when it catches up, that is another report of the first change and no change.
 */
export function timelineOf(sightings: readonly Sighting[]): Edge[] {
  const edges: Edge[] = []
  const runs = withoutCatchingUp(runsOf(sightings))
  for (let i = 1; i < runs.length; i++) edges.push(edgeBetween(runs, i))
  return edges
}

function edgeBetween(runs: readonly Run[], i: number): Edge {
  const [before, run] = [runs[i - 1], runs[i]]
  const [first] = run.sightings
  const sources = new Set(run.sightings.map((s) => s.source)).size
  const disagrees = staysBehind(runs, i)
  const statedFirst = run.sightings.some((s) => s.stated && s.day === first.day)
  const lastOtherwise = before.sightings[before.sightings.length - 1].day
  const after = statedFirst || lastOtherwise >= first.day ? datePlusDays(first.day, -1) : lastOtherwise
  return {
    from: before.value,
    to: run.value,
    after,
    by: first.day,
    reports: run.sightings.map((s) => s.entry),
    fromEntry: before.sightings[before.sightings.length - 1].entry,
    sources,
    disagrees,
    sure: disagrees ? 'to be confirmed' : run.sightings.some((s) => s.stated) ? 'stated' : 'likely',
  }
}

/** Whether a run goes back to the value before the last, said only by sources that never said the last. */
function staysBehind(runs: readonly Run[], i: number): boolean {
  if (i < 2 || runs[i].value !== runs[i - 2].value) return false
  const newer = new Set(runs[i - 1].sightings.map((s) => s.source))
  return runs[i].sightings.every((s) => !s.stated && !newer.has(s.source))
}

/** The same runs where a source that stayed behind and then caught up made no change. */
function withoutCatchingUp(runs: readonly Run[]): Run[] {
  const kept: Run[] = []
  for (let i = 0; i < runs.length; i++) {
    kept.push(runs[i])
    const last = kept.length - 1
    // Older, newer, older said from behind, newer: the last belongs to the second.
    if (last >= 3 && runs[i].value === kept[last - 2].value && staysBehind(kept, last - 1)) {
      kept[last - 2] = { value: runs[i].value, sightings: [...kept[last - 2].sightings, ...runs[i].sightings] }
      kept.length = last - 1
    }
  }
  return kept
}

function runsOf(sightings: readonly Sighting[]): Run[] {
  const runs: Run[] = []
  for (const sighting of inOrder(sightings)) {
    const run = runs.at(-1)
    if (run?.value === sighting.value) run.sightings.push(sighting)
    else runs.push({ value: sighting.value, sightings: [sighting] })
  }
  return runs
}

/**
 * Sightings by day. On one day: first what was so before it, then what the record came in with, last what is so after it, the others by
 * their value.
 */
function inOrder(sightings: readonly Sighting[]): Sighting[] {
  const days = new Map<Day, Sighting[]>()
  for (const sighting of sightings) days.set(sighting.day, [...(days.get(sighting.day) ?? []), sighting])
  const sorted = [...days.entries()].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, of]) => of)
  const next = sorted.map(() => null as string | null)
  for (let i = sorted.length - 2; i >= 0; i--) {
    const values = new Set(sorted[i + 1].map((s) => s.value))
    next[i] = values.size === 1 ? [...values][0] : next[i + 1]
  }
  let current: string | null = null
  return sorted.flatMap((of, i) => {
    const began = of.find((s) => s.began)?.value
    const rank = (value: string) => (value === current ? 0 : value === began ? 1 : value === next[i] ? 3 : 2)
    const day = [...of].sort(
      (a, b) => rank(a.value) - rank(b.value) || (a.value === b.value ? a.entry - b.entry : a.value < b.value ? -1 : 1),
    )
    current = day[day.length - 1].value
    return day
  })
}

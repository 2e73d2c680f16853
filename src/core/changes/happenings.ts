import { datePlusDays } from '../calendar/local-day'
import type { Day, Interval, Sure } from './sighting'

/** One report of something that happened and changed no field. `same` are keys: two reports that share one tell of the same. */
export interface Told {
  entry: number
  day: Day
  stated: boolean
  source: string
  same: readonly string[]
}

/** Something that happened, from all that tell of it. */
export interface Happening extends Interval {
  reports: number[]
  sources: number
  sure: Sure
}

/**
 * What happened, from every report of it: reports are of the same thing only where they share a key (the id at the source, the same
 * link or the same text on the same day), directly or through others. The day is the first on which it was told; only a source that
 * states the day proves when it was, any other that it was by then.
 */
export function happeningsOf(told: readonly Told[]): Happening[] {
  const sorted = [...told].sort((a, b) => a.entry - b.entry)
  const root = sorted.map((_, i) => i)
  const find = (i: number): number => {
    while (root[i] !== i) i = root[i] = root[root[i]]
    return i
  }
  const first = new Map<string, number>()
  sorted.forEach(({ same }, i) => {
    for (const key of same) {
      const other = first.get(key)
      if (other === undefined) first.set(key, i)
      else root[Math.max(find(i), find(other))] = Math.min(find(i), find(other))
    }
  })
  const groups = new Map<number, Told[]>()
  sorted.forEach((one, i) => groups.set(find(i), [...(groups.get(find(i)) ?? []), one]))
  return [...groups.values()].map((group) => {
    const days = group.map((one) => one.day).sort()
    const stated = group
      .filter((one) => one.stated)
      .map((one) => one.day)
      .sort()
    const by = stated[0] ?? days[0]
    return {
      after: stated.length > 0 ? dayBefore(by) : null,
      by,
      reports: group.map((one) => one.entry),
      sources: new Set(group.map((one) => one.source)).size,
      // Two days stated for one thing do not agree.
      sure: new Set(stated).size > 1 ? 'to be confirmed' : stated.length > 0 ? 'stated' : 'likely',
    }
  })
}

const dayBefore = (day: Day): Day => datePlusDays(day, -1)

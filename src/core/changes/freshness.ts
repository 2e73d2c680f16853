import { datePlusDays } from '../calendar/local-day'
import type { Day, Interval } from './sighting'

export const FRESHNESS = ['fresh', 'fading', 'gone'] as const
export type Freshness = (typeof FRESHNESS)[number]

/** What each of them means, in words. */
export const FRESHNESS_SAYS: Record<Freshness, string> = {
  fresh: 'happened within the days its kind stays useful',
  fading: 'may be older than that, but not twice as old',
  gone: 'too old to start from',
}

/**
 * How a change stands on a day against the days its kind stays useful. It is fresh only where that is proved: the earliest day on
 * which it can have happened lies within those days, today included. It is gone once the latest such day is more than twice as long
 * ago (our own rule, no source). A kind without a number of days never ages.
 */
export function freshnessOf({ after, by }: Interval, days: number | null, today: Day): Freshness {
  if (days === null) return 'fresh'
  const { fresh, fading } = limitsOf(days, today)
  if (after !== null && after >= fresh) return 'fresh'
  return by >= fading ? 'fading' : 'gone'
}

/** The last day before a fresh change, and the first of one that is fading: few kinds ask for very many changes of one day. */
const limits = new Map<string, { fresh: Day; fading: Day }>()

function limitsOf(days: number, today: Day): { fresh: Day; fading: Day } {
  const key = `${today} ${days}`
  let known = limits.get(key)
  if (!known) {
    // Another day asks for others.
    if (limits.size > 500) limits.clear()
    limits.set(key, (known = { fresh: datePlusDays(today, -days - 1), fading: datePlusDays(today, -2 * days) }))
  }
  return known
}

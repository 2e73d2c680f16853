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
  if (after !== null && datePlusDays(after, 1) >= datePlusDays(today, -days)) return 'fresh'
  return by >= datePlusDays(today, -2 * days) ? 'fading' : 'gone'
}

import type { Verdict } from './patterns'
import { type Interval, wilson } from './share'

/**
 * How the share that fits came about, verdict by verdict in the order in which they were given: after each that tells, how many were seen, the
 * share of them that fits and its interval (Wilson 1927). Not weighted by strata, so its end may differ from the estimate for the list.
 */
export function courseOf(verdicts: readonly Verdict[], z: number): ({ seen: number; share: number } & Interval)[] {
  const course: ({ seen: number; share: number } & Interval)[] = []
  let fit = 0
  for (const verdict of verdicts) {
    if (verdict === 'cannot tell') continue
    const seen = course.length + 1
    if (verdict === 'fits') fit++
    course.push({ seen, share: fit / seen, ...wilson(fit, seen, z) })
  }
  return course
}

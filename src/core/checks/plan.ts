import type { SpreadBy } from './parts'
import { type Sureness, Z } from './share'

/** How a sample is looked through. It is chosen before the first record is seen. */
export type CheckPlan =
  /** So many records, whatever comes out. */
  | { kind: 'fixed'; wanted: number; sure: Sureness; size: number; by?: SpreadBy | null }
  /** One after the other until it is clear, `most` at most; `poor` is the share at which the list must not pass. */
  | { kind: 'sequential'; wanted: number; sure: Sureness; poor: number; most: number }

export type Outcome = 'passes' | 'fails' | 'open'

/**
 * How many to look at so that a share near `share` is known to within `within` either way, of a population of `size`.
 * Source: W. G. Cochran, Sampling Techniques (1977), 4.4 with the correction for a finite population.
 */
export function sampleSize(size: number, share: number, within: number, z: number): number {
  const endless = (z * z * share * (1 - share)) / (within * within)
  return Math.min(size, Math.ceil(endless / (1 + (endless - 1) / Math.max(1, size)) - 1e-9))
}

/**
 * Where a sequential plan stands after so many that fit and that do not: a list of which the wanted share fits fails, and one of which
 * only the poor share fits passes, each at most as often as the plan is not sure.
 * Source: A. Wald, Sequential tests of statistical hypotheses, Annals of Mathematical Statistics 16 (1945), the probability ratio test.
 */
export function sequentially(
  { wanted, poor, sure }: { wanted: number; poor: number; sure: Sureness },
  fit: number,
  unfit: number,
): Outcome {
  const error = 1 - sure / 100
  const ratio = unfit * Math.log((1 - poor) / (1 - wanted)) + fit * Math.log(poor / wanted)
  if (ratio >= Math.log((1 - error) / error)) return 'fails'
  return ratio <= Math.log(error / (1 - error)) ? 'passes' : 'open'
}

/** What a fixed sample says of the wanted share: the whole interval lies on one side of it, or it is open. */
export function judged({ wanted }: { wanted: number }, { low, high }: { low: number; high: number }): Outcome {
  return low >= wanted ? 'passes' : high < wanted ? 'fails' : 'open'
}

/** The quantile a plan's sureness stands for. */
export const quantile = (plan: CheckPlan): number => Z[plan.sure]

/**
 * How many of a sample fall to each of some strata of these sizes: in proportion, by the largest remainder, and two at least where
 * there are two (common practice, no source).
 */
export function allocated(sizes: readonly number[], sample: number): number[] {
  const all = sizes.reduce((sum, size) => sum + size, 0)
  if (sample >= all) return [...sizes]
  const least = sizes.map((size) => Math.min(2, size))
  const floor = least.reduce((sum, n) => sum + n, 0)
  if (floor >= sample) return least
  const exact = sizes.map((size) => (size / all) * sample)
  const given = exact.map((own, i) => Math.max(least[i], Math.min(sizes[i], Math.floor(own))))
  let left = sample - given.reduce((sum, n) => sum + n, 0)
  // Strata that got their least take from the largest.
  while (left < 0) {
    const largest = given.reduce((best, n, i) => (n - least[i] > given[best] - least[best] ? i : best), 0)
    given[largest]--
    left++
  }
  const byRest = exact.map((_, i) => i).sort((a, b) => exact[b] - given[b] - (exact[a] - given[a]) || a - b)
  for (let i = 0; left > 0; i = (i + 1) % byRest.length)
    if (given[byRest[i]] < sizes[byRest[i]]) {
      given[byRest[i]]++
      left--
    }
  return given
}

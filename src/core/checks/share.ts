/** How sure an interval is: in so many of a hundred samples it holds the true share. */
export const SURENESS = [90, 95, 99] as const
export type Sureness = (typeof SURENESS)[number]

/** Two-sided quantiles of the standard normal distribution (from memory; checked in the tests against a reference library). */
export const Z: Record<Sureness, number> = { 90: 1.6448536269514722, 95: 1.959963984540054, 99: 2.5758293035489004 }

export interface Interval {
  low: number
  high: number
}

/**
 * The interval for a share of which `part` of `whole` were seen, both of which may be fractions, 0 to 1. Nothing seen says nothing.
 * Source: E. B. Wilson, Probable inference, the law of succession, and statistical inference, JASA 22 (1927).
 */
export function wilson(part: number, whole: number, z: number): Interval {
  if (whole <= 0) return { low: 0, high: 1 }
  const share = part / whole
  const squared = z * z
  const middle = (share + squared / (2 * whole)) / (1 + squared / whole)
  const half = (z / (1 + squared / whole)) * Math.sqrt((share * (1 - share)) / whole + squared / (4 * whole * whole))
  return { low: part === 0 ? 0 : Math.max(0, middle - half), high: part === whole ? 1 : Math.min(1, middle + half) }
}

/** A part of what a sample is drawn from: how many it holds, how many of them were judged, and how many of those fit. */
export interface Stratum {
  size: number
  seen: number
  fit: number
}

export interface Estimate extends Interval {
  /** The share that fits, 0 to 1; null while nothing was judged. */
  share: number | null
  /** How many records the estimate speaks of: those of strata of which something was judged. */
  covers: number
}

/**
 * The share that fits, each stratum weighed by its size, with Wilson's interval at the effective size of the sample: the variance of the
 * weighed share, with the correction for a finite population, is told as the size of a plain sample of the same variance (E. L. Korn and
 * B. I. Graubard, Confidence intervals for proportions with small expected number of positive counts estimated from survey data, Survey
 * Methodology 24, 1998; from memory). Within a stratum the share is moved towards a half by one record each way, so that strata of which
 * all fit do not claim to be certain. What was judged whole is certain.
 */
export function estimate(strata: readonly Stratum[], z: number): Estimate {
  const known = strata.filter(({ seen }) => seen > 0)
  const covers = known.reduce((sum, { size }) => sum + size, 0)
  if (covers === 0) return { share: null, low: 0, high: 1, covers: 0 }
  let [share, near, variance] = [0, 0, 0]
  for (const { size, seen, fit } of known) {
    const weight = size / covers
    const moved = (fit + 1) / (seen + 2)
    const open = size <= 1 ? 0 : Math.max(0, (size - seen) / (size - 1))
    share += (weight * fit) / seen
    near += weight * moved
    variance += (weight * weight * open * moved * (1 - moved)) / seen
  }
  if (variance === 0) return { share, low: share, high: share, covers }
  const effective = (near * (1 - near)) / variance
  return { share, ...wilson(share * effective, effective, z), covers }
}

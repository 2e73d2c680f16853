/**
 * Chances of error of many tests, each adjusted for all that were tried: below a limit there, at most that share of what is found is
 * found by chance. In the order given.
 * Source: Y. Benjamini and Y. Hochberg, Controlling the false discovery rate, JRSS B 57 (1995).
 */
export function adjusted(chances: readonly number[]): number[] {
  const order = chances.map((_, i) => i).sort((a, b) => chances[b] - chances[a])
  const result = new Array<number>(chances.length)
  let least = 1
  order.forEach((i, place) => {
    least = Math.min(least, (chances[i] * chances.length) / (chances.length - place))
    result[i] = least
  })
  return result
}

/**
 * Which of many exact tests could show anything at a limit, by the least chance each can come to at all: those that never could need
 * not be adjusted for. The least chances must not depend on the outcome, only on how many records a test is about.
 * Source: P. B. Gilbert, A modified false discovery rate multiple-comparisons procedure for discrete data, Applied Statistics 54
 * (2005), after R. E. Tarone, Biometrics 46 (1990).
 */
export function testable(least: readonly number[], limit: number): boolean[] {
  const sorted = Float64Array.from(least).sort()
  let k = 1
  // So many tests can come to the limit shared by k of them; the first k that is no fewer. The more share it, the fewer can.
  let at = sorted.length
  const within = (share: number) => {
    while (at > 0 && sorted[at - 1] > share) at--
    return at
  }
  while (within(limit / k) > k) k++
  return least.map((p) => p <= limit / k)
}

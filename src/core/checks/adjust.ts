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

/** Natural logarithms of factorials, as far as they were asked for. */
const logs = [0, 0]
const logFactorial = (n: number): number => {
  for (let i = logs.length; i <= n; i++) logs.push(logs[i - 1] + Math.log(i))
  return logs[n]
}

const logChoose = (n: number, k: number): number => logFactorial(n) - logFactorial(k) - logFactorial(n - k)

/**
 * How often chance alone puts at least `both` of `marked` records into a group of `group` out of `all`: the upper tail of the
 * hypergeometric distribution, the one-sided exact test of a table of two by two.
 * Source: R. A. Fisher, The Design of Experiments (1935), chapter 2.
 */
export function fisherUpper({ both, marked, group, all }: { both: number; marked: number; group: number; all: number }): number {
  const most = Math.min(marked, group)
  let p = 0
  for (let k = both; k <= most; k++) {
    if (group - k > all - marked) continue
    p += Math.exp(logChoose(marked, k) + logChoose(all - marked, group - k) - logChoose(all, group))
  }
  return Math.min(1, p)
}

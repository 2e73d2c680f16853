import { type Line, sameLine } from './line'

/** What became of a line from one edition to another. A changed line keeps its id; a moved one changed its place. */
export type LineChange =
  | { is: 'same' | 'moved'; line: Line; before: number; after: number }
  | { is: 'changed'; line: Line; was: Line; before: number; after: number }
  | { is: 'added'; line: Line; after: number }
  | { is: 'removed'; line: Line; before: number }

/**
 * Two pages held against each other, line by line, in the order of the later one; removed lines stand where they stood.
 * Lines are told by their ids. Lines whose order among those in both differs from the longest run in order have moved.
 * Source of the run: C. Schensted, Longest increasing and decreasing subsequences, Canad. J. Math. 13, 1961.
 */
export function compareLines(before: readonly Line[], after: readonly Line[]): LineChange[] {
  const at = new Map(before.map((line, i) => [line.id, i]))
  const common = after.flatMap((line, i) => (at.has(line.id) ? [{ after: i, before: at.get(line.id) as number }] : []))
  const inOrder = longestRun(common.map((c) => c.before))
  const changes = after.map((line, i): LineChange => {
    const was = at.get(line.id)
    if (was === undefined) return { is: 'added', line, after: i }
    if (!sameLine(before[was], line)) return { is: 'changed', line, was: before[was], before: was, after: i }
    return { is: inOrder.has(was) ? 'same' : 'moved', line, before: was, after: i }
  })
  const kept = new Set(after.map((line) => line.id))
  before.forEach((line, i) => {
    if (kept.has(line.id)) return
    const precedes = changes.findLastIndex((c) => 'before' in c && c.before < i)
    changes.splice(precedes + 1, 0, { is: 'removed', line, before: i })
  })
  return changes
}

/** The members of a longest increasing subsequence. */
function longestRun(values: number[]): Set<number> {
  const best = values.map(() => 1)
  const from = values.map(() => -1)
  let end = -1
  values.forEach((value, i) => {
    for (let j = 0; j < i; j++) if (values[j] < value && best[j] + 1 > best[i]) [best[i], from[i]] = [best[j] + 1, j]
    if (end < 0 || best[i] > best[end]) end = i
  })
  const run = new Set<number>()
  for (let i = end; i >= 0; i = from[i]) run.add(values[i])
  return run
}

import type { Bitset } from '../columns/bitset'
import type { SubjectColumns } from '../columns/subject-columns'
import type { FacetValues } from './facet'

/** One column a table is sorted by. */
export interface SortKey {
  key: string
  /** From the last to the first. */
  back: boolean
}

/**
 * The record numbers of a set, sorted by several facets in turn; what is missing goes last either way, and ties stand in
 * the order in which records are shown.
 */
export function sortedBy(
  columns: SubjectColumns,
  set: Bitset,
  keys: readonly { values: FacetValues; back: boolean; ordered: boolean }[],
): Int32Array {
  const place = new Int32Array(columns.size)
  columns.inOrder().forEach((n, i) => {
    place[n] = i
  })
  const numbers = set.toInt32()
  const order = Int32Array.from(numbers, (_, i) => i)
  const ranks = keys.map(({ values, back, ordered }) => {
    const rank = ordered ? values.labels.map((_, i) => i) : ranksOf(values.labels)
    return Int32Array.from(numbers, (n) => {
      const at = values.at(n)
      return at < 0 ? 0x7fffffff : back ? values.labels.length - rank[at] : rank[at]
    })
  })
  order.sort((a, b) => {
    for (const rank of ranks) if (rank[a] !== rank[b]) return rank[a] - rank[b]
    return place[numbers[a]] - place[numbers[b]]
  })
  return Int32Array.from(order, (i) => numbers[i])
}

/** The place of each label in the order of the alphabet. */
function ranksOf(labels: readonly string[]): number[] {
  const ranks = new Array<number>(labels.length)
  Array.from(labels.keys())
    .sort((a, b) => labels[a].localeCompare(labels[b], 'en'))
    .forEach((code, i) => {
      ranks[code] = i
    })
  return ranks
}

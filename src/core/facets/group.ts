import { fold } from '../clean/fold'
import type { Bitset } from '../columns/bitset'
import type { FacetValues } from './facet'

/** How many of a set have each value; `unknown` is of those that have none. */
export interface Groups {
  /** By the place of the label. */
  counts: Int32Array
  unknown: number
}

/** Returns how many of a set have each value, and how many have none. */
export function countBy(set: Bitset, values: FacetValues): Groups {
  const counts = new Int32Array(values.labels.length)
  let unknown = 0
  set.forEach((n) => {
    const at = values.at(n)
    if (at < 0) unknown++
    else counts[at]++
  })
  return { counts, unknown }
}

/** Those of a set that have one value, or none where the label is null. */
export function having(set: Bitset, values: FacetValues, label: string | null): Bitset {
  // Another way to write the same may have come to stand for it since it was counted.
  const wanted =
    label === null
      ? -1
      : values.labels.includes(label)
        ? values.labels.indexOf(label)
        : values.labels.findIndex((own) => fold(own) === fold(label))
  return set.split((n) => (values.at(n) === wanted && (label === null || wanted >= 0) ? 1 : 0)).yes
}

/** Groups with somebody in them: in the order of their labels where that is the order of a number, else the largest first. */
export function groupRows({ counts }: Groups, labels: readonly string[], ordered: boolean): { label: string; count: number }[] {
  const rows = labels.map((label, i) => ({ label, count: counts[i] })).filter((row) => row.count > 0)
  return ordered ? rows : rows.sort((a, b) => b.count - a.count || (a.label < b.label ? -1 : 1))
}

import { fold } from '../clean/fold'
import type { Directory } from '../columns/directory'
import type { NumberColumn } from '../columns/number-column'
import type { Subject } from '../records/subject'
import type { WordColumn } from '../columns/words'
import type { Moment } from '../criteria/kind'
import type { Criterion } from '../criteria/registry'

/**
 * What records of a subject are sorted, grouped, counted and compared by: every record has one value, or is unknown. Values
 * are told by their place in `labels`.
 */
export interface Facet {
  title: string
  /** Where a number stands for how much, labels stand in its order; else a group is as large as it is. */
  ordered?: true
  values(directory: Directory, moment: Moment): FacetValues
  /** The criterion that answers yes for one value, where there is one. */
  criterion?(label: string): Criterion
}

/** The place in `labels` of the value of a record number, or -1 where it is missing. */
export interface FacetValues {
  labels: readonly string[]
  at(n: number): number
}

/**
 * Values that are words of a column, put under labels. What gives no label is missing. What a label makes of words is kept, so
 * it is the same function every time. Without one, words that differ only in how they are written are one value.
 */
export function byWords(column: WordColumn | undefined, label?: (word: string) => string | null): FacetValues {
  if (!column) return { labels: [], at: () => -1 }
  const places = new Map<string, number>()
  const labels: string[] = []
  const of = Int32Array.from(column.derived(label ?? fold), (said, code) => {
    if (said === null) return -1
    const word = label ? said : column.words[code]
    const known = places.get(said)
    if (known === undefined) {
      places.set(said, labels.length)
      return labels.push(word) - 1
    }
    if (!label && written(word) > written(labels[known])) labels[known] = word
    return known
  })
  return {
    labels,
    at: (n) => {
      const code = column.codeAt(n)
      return code < 0 ? -1 : of[code]
    },
  }
}

/** Of two ways to write a word, the one in capital and small letters is shown. */
const written = (word: string): number => (word !== word.toLowerCase() && word !== word.toUpperCase() ? 1 : 0)

/** Values in bands: each label with the number it begins at, ascending; a missing number is missing. */
export function byBands(bands: readonly (readonly [label: string, from: number])[], value: (n: number) => number | null): FacetValues {
  return {
    labels: bands.map(([label]) => label),
    at: (n) => {
      const own = value(n)
      if (own === null || Number.isNaN(own)) return -1
      let band = -1
      while (band + 1 < bands.length && own >= bands[band + 1][1]) band++
      return band
    },
  }
}

/** The values of what records belong to, as values of the records. */
export function through(link: NumberColumn, others: { live: { has(n: number): boolean } }, values: FacetValues): FacetValues {
  return {
    labels: values.labels,
    at: (n) => {
      const other = link.at(n)
      return other < 0 || !others.live.has(other) ? -1 : values.at(other)
    },
  }
}

export type FacetsOf = Record<Subject, Record<string, Facet>>

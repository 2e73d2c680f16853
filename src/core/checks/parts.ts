import type { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import type { OriginSet } from './strata'

/** By what else a sample is spread: the file people came with, how long ago a fact about them last changed, or their rank in the list's last limit. */
export const SPREAD_BY = ['batch', 'age', 'rank'] as const
export type SpreadBy = (typeof SPREAD_BY)[number]

/**
 * A part of a stratum: those of one file, null for all others; whose facts last changed within so many days, null for longer ago; or the first,
 * second or last third by rank.
 */
export type StratumPart = { of: 'batch'; batch: number | null } | { of: 'age'; days: number | null } | { of: 'rank'; third: 1 | 2 | 3 }

/** More files than these share a part, so that the sample is not spread too thin. */
const MOST_FILES = 5

/** The steps of age, in days: a quarter and a year (common practice, no source). */
export const AGES = [90, 365] as const
const DAY = 86_400_000

/**
 * Strata parted further, each person in one part of theirs; parts that are empty are left out. Whoever came with several files belongs to the last.
 * `first` is who would be on a list whose last limit held a third as many, and two thirds; it is asked by rank alone.
 */
export function partedBy(
  origins: readonly OriginSet[],
  columns: PeopleColumns,
  by: SpreadBy,
  asOf: number,
  first: readonly Bitset[] = [],
): (OriginSet & { part: StratumPart })[] {
  const parts = by === 'batch' ? filesOf(origins, columns) : by === 'age' ? agesOf(origins, columns, asOf) : thirdsOf(first)
  return origins.flatMap((origin) => {
    let rest = origin.set
    const own = parts.map(({ part, set }) => {
      const taken = set ? rest.and(set) : rest
      rest = rest.andNot(taken)
      return { ...origin, part, set: taken }
    })
    return own.filter(({ set }) => set.count() > 0)
  })
}

/** Null for the set of all others, which comes last. */
type Part = { part: StratumPart; set: Bitset | null }

function filesOf(origins: readonly OriginSet[], columns: PeopleColumns): Part[] {
  const all = origins.map(({ set }) => set).reduce((one, other) => one.or(other))
  let rest = all
  const files = [...columns.batches]
    .sort(([a], [b]) => b - a)
    .map(([batch, members]) => {
      const set = rest.and(members)
      rest = rest.andNot(set)
      return { batch, set, size: set.count() }
    })
  const largest = files
    .filter(({ size }) => size > 0)
    .sort((a, b) => b.size - a.size || b.batch - a.batch)
    .slice(0, MOST_FILES)
  return [
    ...largest.map(({ batch, set }): Part => ({ part: { of: 'batch', batch }, set })),
    { part: { of: 'batch', batch: null }, set: null },
  ]
}

const thirdsOf = (first: readonly Bitset[]): Part[] => [
  ...first.slice(0, 2).map((set, i): Part => ({ part: { of: 'rank', third: i === 0 ? 1 : 2 }, set })),
  { part: { of: 'rank', third: 3 }, set: null },
]

function agesOf(origins: readonly OriginSet[], columns: PeopleColumns, asOf: number): Part[] {
  const all = origins.map(({ set }) => set).reduce((one, other) => one.or(other))
  const within = (days: number) => all.and(columns.live.split((n) => ((columns.changedAt(n) ?? 0) >= asOf - days * DAY ? 1 : 0)).yes)
  return [...AGES.map((days): Part => ({ part: { of: 'age', days }, set: within(days) })), { part: { of: 'age', days: null }, set: null }]
}

import type { FoundPage, Search } from './source'

/** By what a search can be split where a source answers only so many at once. */
export const SPLITS = ['sub-kind', 'district'] as const
export type Split = (typeof SPLITS)[number]

/** Whether a search finds more than its source gives out. */
export const tooMany = ({ total, most }: Pick<FoundPage, 'total' | 'most'>): boolean => total > most

/** The parts of a search, one for each sub-kind or district that has any; together they find what it finds. */
export function partsOf(search: Search, by: Split, page: Pick<FoundPage, 'subKinds' | 'districts'>): Search[] {
  return by === 'sub-kind'
    ? page.subKinds.map(([name]) => ({ ...search, subKinds: [name] }))
    : page.districts.map(([name]) => ({ ...search, districts: [name] }))
}

/** The split that leaves fewest too large for the source to give out; on a tie the one with fewer parts. */
export function bestSplit({ most, subKinds, districts }: Pick<FoundPage, 'most' | 'subKinds' | 'districts'>): Split {
  const over = (counts: [string, number][]) => counts.reduce((sum, [, count]) => sum + Math.max(0, count - most), 0)
  const [a, b] = [over(subKinds), over(districts)]
  return a < b || (a === b && subKinds.length <= districts.length) ? 'sub-kind' : 'district'
}

/** A search in words. */
export function searchText({ words, subKinds, districts }: Search): string {
  return [
    words.trim() ? `“${words.trim()}”` : 'everything',
    subKinds.length > 0 && `of ${subKinds.join(' or ')}`,
    districts.length > 0 && `in ${districts.join(' or ')}`,
  ]
    .filter(Boolean)
    .join(' ')
}

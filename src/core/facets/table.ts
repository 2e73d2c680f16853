import type { Subject } from '../columns/subject'
import type { Wanted } from '../lists/wanted'
import { FACETS } from './registry'

/** Columns of people that draw more than a word. */
export const DRAWN = { place: 'Place', reach: 'Reach', strip: 'A year', last: 'Last dealt with' } as const
export type Drawn = keyof typeof DRAWN

export const isDrawn = (key: string): key is Drawn => Object.hasOwn(DRAWN, key)

/** The columns a table of a subject begins with. */
export const FIRST_COLUMNS: Record<Subject, readonly string[]> = { person: ['place', 'reach', 'strip', 'last'], organisation: ['industry', 'head-count', 'town', 'people'], premises: ['premises-kind', 'town', 'roof', 'owner-kind'] }

/** Every column a table of a subject can have, with what it is called. */
export const columnsFor = (subject: Subject): (readonly [key: string, title: string])[] => [...(subject === 'person' ? Object.entries(DRAWN) : []), ...Object.entries(FACETS[subject]).map(([key, { title }]) => [key, title] as const)]

export const columnTitle = (subject: Subject, key: string): string => (subject === 'person' && isDrawn(key) ? DRAWN[key] : (FACETS[subject][key]?.title ?? key))

/** The facet that a column is sorted and grouped by; null where it cannot be. */
export const facetKeyOf = (key: string): string | null => (key === 'place' ? 'town' : key === 'last' ? 'last contact' : key === 'strip' ? 'contacts' : key)

/** A table as somebody set it up: its columns in order, and what it is sorted by. */
export interface TableSet {
  columns: string[]
  sort: { key: string; back: boolean }[]
  /** How many the list should hold, where that was said. */
  wanted?: Wanted | null
}

/** A set-up of columns that came from outside, with those left out that do not exist. */
export function validTable(raw: unknown, subject: Subject): TableSet {
  const known = new Set(columnsFor(subject).map(([key]) => key))
  const given = (raw ?? {}) as Partial<TableSet>
  const columns = [...new Set(Array.isArray(given.columns) ? given.columns.filter((key) => known.has(key)) : [])].slice(0, 12)
  const sort = Array.isArray(given.sort) ? given.sort.filter((s) => s && Object.hasOwn(FACETS[subject], s.key)).map((s) => ({ key: s.key, back: s.back === true })).slice(0, 4) : []
  const { wanted } = given
  const size = wanted && Number.isInteger(wanted.least) && Number.isInteger(wanted.most) && wanted.least >= 0 && wanted.least <= wanted.most ? { least: wanted.least, most: wanted.most } : null
  return { columns: columns.length > 0 ? columns : [...FIRST_COLUMNS[subject]], sort, ...(size ? { wanted: size } : {}) }
}

import type { Subject } from '../records/subject'
import type { Wanted } from '../lists/wanted'
import { FACETS } from './registry'

/** Columns of people that draw more than a word. */
export const DRAWN = { place: 'Place', reach: 'Reach', strip: 'A year', last: 'Last dealt with', opener: 'Opener' } as const
export type Drawn = keyof typeof DRAWN

/** Whether a column is drawn from several values, not read off one. */
export const isDrawn = (key: string): key is Drawn => Object.hasOwn(DRAWN, key)

/** The columns a table of a subject begins with. */
export const FIRST_COLUMNS: Record<Subject, readonly string[]> = {
  person: ['place', 'reach', 'strip', 'last'],
  organisation: ['industry', 'head-count', 'town', 'people'],
  premises: ['premises-kind', 'town', 'roof', 'owner-kind'],
}

/** Every column a table of a subject can have, with what it is called. */
export const columnsFor = (subject: Subject): (readonly [key: string, title: string])[] => [
  ...(subject === 'person' ? Object.entries(DRAWN) : []),
  ...Object.entries(FACETS[subject]).map(([key, { title }]) => [key, title] as const),
]

/** Returns the title of a column. */
export const columnTitle = (subject: Subject, key: string): string =>
  subject === 'person' && isDrawn(key) ? DRAWN[key] : (FACETS[subject][key]?.title ?? key)

/** The facet that a column is sorted and grouped by; null where it cannot be. */
export const facetKeyOf = (key: string): string | null =>
  key === 'place' ? 'town' : key === 'last' ? 'last contact' : key === 'strip' ? 'contacts' : key

/** More would leave no room for the others. */
export const MOST_PINNED = 2

/** A table with one of its columns pinned, or no longer: pinned ones stand first, in the order they were pinned. */
export function pinColumn(table: TableSet, key: string): TableSet {
  const pinned = table.pinned ?? 0
  const at = table.columns.indexOf(key)
  if (at < 0 || (at >= pinned && pinned >= MOST_PINNED)) return table
  const others = table.columns.filter((column) => column !== key)
  const count = at < pinned ? pinned - 1 : pinned + 1
  const place = at < pinned ? count : pinned
  return { ...table, columns: [...others.slice(0, place), key, ...others.slice(place)], pinned: count }
}

/** A table as somebody set it up: its columns in order, and what it is sorted by. */
export interface TableSet {
  /** Those that are pinned come first. */
  columns: string[]
  /** How many of the first columns stay in view, beside the name, when the table is moved sideways. */
  pinned?: number
  sort: { key: string; back: boolean }[]
  /** How many the list should hold, where that was said. */
  wanted?: Wanted | null
}

/** The columns of a table without what is one person's own: its order of rows and its wanted size. */
export type ColumnSet = Pick<TableSet, 'columns' | 'pinned'>

/** Columns that somebody saved under a name, for the whole team. */
export interface SavedColumns extends ColumnSet {
  id: number
  name: string
  by: string
  mine: boolean
}

/** A set-up of columns that came from outside, with those left out that do not exist. */
export function validTable(raw: unknown, subject: Subject): TableSet {
  const known = new Set(columnsFor(subject).map(([key]) => key))
  const given = (raw ?? {}) as Partial<TableSet>
  const columns = [...new Set(Array.isArray(given.columns) ? given.columns.filter((key) => known.has(key)) : [])].slice(0, 12)
  const sort = Array.isArray(given.sort)
    ? given.sort
        .filter((s) => s && Object.hasOwn(FACETS[subject], s.key))
        .map((s) => ({ key: s.key, back: s.back === true }))
        .slice(0, 4)
    : []
  const pinned = Number.isInteger(given.pinned) ? Math.max(0, Math.min(given.pinned as number, columns.length, MOST_PINNED)) : 0
  const { wanted } = given
  const size =
    wanted && Number.isInteger(wanted.least) && Number.isInteger(wanted.most) && wanted.least >= 0 && wanted.least <= wanted.most
      ? { least: wanted.least, most: wanted.most }
      : null
  return {
    columns: columns.length > 0 ? columns : [...FIRST_COLUMNS[subject]],
    sort,
    ...(pinned > 0 ? { pinned } : {}),
    ...(size ? { wanted: size } : {}),
  }
}

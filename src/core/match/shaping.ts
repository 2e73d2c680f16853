import { fold } from '../clean/fold'

/** A column made of the file's own ones: one part of a column that is cut, several columns joined, or the same for every row. */
export type MadeColumn =
  | { is: 'part'; of: number; at: string; part: number; last: boolean }
  | { is: 'joined'; of: number[]; with: string }
  | { is: 'always'; value: string }

/**
 * How rows are made ready before their columns are mapped. Made columns stand after those of the file; `words` says, column
 * by column, what a cell is taken to say instead of what stands in it.
 */
export interface Shaping {
  made?: MadeColumn[]
  words?: Record<number, [from: string, to: string][]>
}

/** Columns are cut at these, most usual first; a blank stands for any run of blanks. */
export const CUTS = [' ', ',', ';', '/', '|', '-', '\n'] as const
export const MOST_PARTS = 6

/** The titles of the columns, those that are made after those of the file. */
export function shapedHeader(header: readonly string[], { made = [] }: Shaping): string[] {
  const title = (column: number) => header[column] || `column ${column + 1}`
  return [
    ...header,
    ...made.map((column) =>
      column.is === 'part'
        ? `${title(column.of)}, ${column.last ? 'the rest' : `part ${column.part}`}`
        : column.is === 'joined'
          ? column.of.map(title).join(' + ')
          : `always “${column.value}”`,
    ),
  ]
}

/** A row with the columns that are made, reworded. Nothing is made of a row that is empty. */
export function shaped(row: readonly string[], width: number, { made = [], words = {} }: Shaping): string[] {
  if (made.length === 0 && Object.keys(words).length === 0) return row as string[]
  if (row.every((cell) => cell.trim() === '')) return [...row]
  const own = Array.from({ length: Math.max(width, 0) }, (_, i) => row[i] ?? '')
  const all = [...own, ...made.map((column) => cellOf(own, column))]
  for (const [column, pairs] of Object.entries(words)) {
    const cell = all[Number(column)]
    const said = cell === undefined ? undefined : pairs.find(([from]) => fold(from) === fold(cell))
    if (said) all[Number(column)] = said[1]
  }
  return all
}

function cellOf(row: readonly string[], column: MadeColumn): string {
  if (column.is === 'always') return column.value
  if (column.is === 'joined')
    return column.of
      .map((i) => (row[i] ?? '').trim())
      .filter(Boolean)
      .join(column.with)
  const parts = cut(row[column.of] ?? '', column.at)
  return column.last ? parts.slice(column.part - 1).join(column.at) : (parts[column.part - 1] ?? '')
}

/** The parts of a cell, blanks around them taken off. */
export function cut(cell: string, at: string): string[] {
  const parts = at === ' ' ? cell.trim().split(/\s+/) : cell.split(at).map((part) => part.trim())
  return parts.length === 1 && parts[0] === '' ? [] : parts
}

/** What is wrong with a shaping for a file of so many columns, or null. */
export function shapingLacks({ made = [], words = {} }: Shaping, width: number): string | null {
  const inFile = (column: number) => Number.isInteger(column) && column >= 0 && column < width
  if (made.length > 40) return 'more than 40 columns are made'
  for (const column of made) {
    if (
      column.is === 'part' &&
      !(inFile(column.of) && column.at.length > 0 && column.at.length <= 10 && column.part >= 1 && column.part <= MOST_PARTS)
    )
      return 'a column is cut that cannot be'
    if (column.is === 'joined' && !(column.of.length > 1 && column.of.every(inFile) && column.with.length <= 10))
      return 'columns are joined that cannot be'
    if (column.is === 'always' && (column.value.trim() === '' || column.value.length > 200))
      return 'what stands in every row is empty or too long'
  }
  for (const [column, pairs] of Object.entries(words)) {
    if (!(Number(column) >= 0 && Number(column) < width + made.length)) return 'words of a column are replaced that the file does not have'
    if (pairs.length > 500 || pairs.some(([from, to]) => from.length > 400 || to.length > 400)) return 'too many words are replaced'
  }
  return null
}

/**
 * A shaping and a mapping for a file with other columns: each column is looked for by its title. Gives the titles that
 * were not found; what hangs on them is left out.
 */
export function carriedOver(
  from: { header: readonly string[]; mapping: (string | null)[]; shaping: Shaping },
  header: readonly string[],
): { mapping: (string | null)[]; shaping: Shaping; missing: string[] } {
  const place = new Map<number, number>()
  const missing: string[] = []
  const taken = new Set<number>()
  from.header.forEach((title, i) => {
    // The same place first, where two columns have one title.
    const at = [i, ...header.keys()].find((j) => j < header.length && !taken.has(j) && fold(header[j]) === fold(title))
    if (at === undefined) missing.push(title || `column ${i + 1}`)
    else {
      place.set(i, at)
      taken.add(at)
    }
  })
  const mapping: (string | null)[] = header.map(() => null)
  for (const [i, at] of place) mapping[at] = from.mapping[i] ?? null
  const made: MadeColumn[] = []
  ;(from.shaping.made ?? []).forEach((column, m) => {
    const whole = column.is === 'always' || (column.is === 'part' ? place.has(column.of) : column.of.every((i) => place.has(i)))
    if (!whole) return
    place.set(from.header.length + m, header.length + made.length)
    made.push(
      column.is === 'part'
        ? { ...column, of: place.get(column.of) as number }
        : column.is === 'joined'
          ? { ...column, of: column.of.map((i) => place.get(i) as number) }
          : column,
    )
    mapping.push(from.mapping[from.header.length + m] ?? null)
  })
  const words = Object.fromEntries(
    Object.entries(from.shaping.words ?? {}).flatMap(([column, pairs]) =>
      place.has(Number(column)) ? [[place.get(Number(column)) as number, pairs]] : [],
    ),
  )
  return { mapping, shaping: { ...(made.length > 0 ? { made } : {}), ...(Object.keys(words).length > 0 ? { words } : {}) }, missing }
}

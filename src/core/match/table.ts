import { fold } from '../clean/fold'
import { FIELDS } from './columns'

const KNOWN = new Set<string>(Object.values(FIELDS).flatMap((fields) => fields.flatMap(([, , words]) => [...words])))

/** How many rows may stand above the titles of the columns. */
const MOST_ABOVE = 20

/** Whether the first row of a file names its columns: a known heading in it, or nothing in it that looks like data. */
export function looksLikeHeader(first: string[], second: string[] | undefined): boolean {
  if (first.some((cell) => KNOWN.has(fold(cell)))) return true
  const data = (cell: string) => /@|^\+?[\d\s()/.-]{4,}$/.test(cell.trim())
  return first.every((cell) => cell.trim() !== '' && !data(cell)) && (second ?? []).some(data)
}

/**
 * The row that names the columns, from 1; 0 where none does. Titles, dates and blank rows that stand above a table hold
 * fewer cells than the table is wide, so the first row that is about as wide decides.
 */
export function headerRowOf(rows: string[][]): number {
  const filled = rows.map((row) => row.filter((cell) => cell.trim() !== '').length)
  const widest = Math.max(...filled)
  const at = filled.findIndex((width, i) => i < MOST_ABOVE && width >= Math.max(1, widest * 0.6))
  return at >= 0 && looksLikeHeader(rows[at], rows[at + 1]) ? at + 1 : 0
}

/** Titles of columns, a number where there is none. */
export function titles(row: string[] | undefined, width: number): string[] {
  return Array.from({ length: width }, (_, i) => (row ? (row[i] ?? '').trim() : `Column ${i + 1}`))
}

/** The delimiter that splits the first records most evenly into more than one column; a comma where none does. */
export function bestDelimiter(parsed: { delimiter: string; widths: number[] }[]): string {
  const score = ({ widths }: { widths: number[] }) => {
    const common = mode(widths)
    return common < 2 ? 0 : widths.filter((width) => width === common).length / widths.length + common / 1000
  }
  return parsed.reduce((best, candidate) => (score(candidate) > score(best) ? candidate : best)).delimiter
}

function mode(values: number[]): number {
  const counts = new Map<number, number>()
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0
}

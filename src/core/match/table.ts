import { fold } from '../clean/fold'
import { FIELDS } from './columns'

const KNOWN = new Set<string>(Object.values(FIELDS).flatMap((fields) => fields.flatMap(([, , words]) => [...words])))

/** Whether the first row of a file names its columns: a known heading in it, or nothing in it that looks like data. */
export function looksLikeHeader(first: string[], second: string[] | undefined): boolean {
  if (first.some((cell) => KNOWN.has(fold(cell)))) return true
  const data = (cell: string) => /@|^\+?[\d\s()/.-]{4,}$/.test(cell.trim())
  return first.every((cell) => cell.trim() !== '' && !data(cell)) && (second ?? []).some(data)
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

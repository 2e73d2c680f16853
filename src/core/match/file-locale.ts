import { squeeze } from '../clean/name'
import { type CustomField, customKey } from '../clean/custom'
import type { Mapping } from './columns'
import type { Reading } from './reading'
import { type Shaping, shaped } from './shaping'

/** How a file writes numbers and dates: what stands before decimals, and whether the month comes before the day. */
export interface FileLocale {
  decimal: '.' | ','
  monthFirst: boolean
}

/** Decimals behind a comma: *0,125*, *12,5*, *1.234,50*; three digits alone behind one could be thousands, unless a zero stands before. */
const COMMA = /^[-+]?(0,\d+|\d+,(\d{1,2}|\d{4,})|\d{1,3}(\.\d{3})+(,\d+)?)$/
const POINT = /^[-+]?(0\.\d+|\d+\.(\d{1,2}|\d{4,})|\d{1,3}(,\d{3})+(\.\d+)?)$/
const DATE = /^(\d{1,2})([/.-])(\d{1,2})\2(\d{4})(.*)$/

/** Guesses how a file writes numbers and dates from its first rows; where they tell nothing, as the team does (`usual`). A semicolon between columns speaks for the comma. */
export function guessLocale(rows: readonly string[][], delimiter: string | undefined, usual: FileLocale): FileLocale {
  let [comma, point, month, day] = [delimiter === ';' ? 0.5 : 0, 0, 0, 0]
  for (const cell of rows.flat().map(squeeze)) {
    if (COMMA.test(cell)) comma++
    else if (POINT.test(cell)) point++
    const [, first, , second] = DATE.exec(cell) ?? []
    if (first === undefined) continue
    if (Number(second) > 12 && Number(first) <= 12) month++
    if (Number(first) > 12 && Number(second) <= 12) day++
  }
  return {
    decimal: comma === point ? usual.decimal : comma > point ? ',' : '.',
    monthFirst: month === day ? usual.monthFirst : month > day,
  }
}

const NUMBERS = new Set(['headCount', 'roofArea', 'yearBuilt', 'latitude', 'longitude'])
const DATES = new Set(['date', 'since', 'until'])

/** A row with the numbers and dates of its fields written in the one way they are cleaned in: decimals behind a point, dates as YYYY-MM-DD. `kindOf` tells what a field of the team's own holds. */
export function inOneLocale(
  row: string[],
  mapping: Mapping,
  { decimal, monthFirst }: FileLocale,
  kindOf: (field: string) => string | undefined = () => undefined,
): string[] {
  if (decimal === '.' && !monthFirst) return row
  return row.map((cell, i) => {
    const field = mapping[i]
    if (field === null || field === undefined) return cell
    const kind = kindOf(field)
    if (decimal === ',' && (NUMBERS.has(field) || kind === 'number')) return withPoint(cell)
    return monthFirst && (DATES.has(field) || kind === 'date') ? dayFirst(cell) : cell
  })
}

/** A number with its decimals behind a point and nothing between thousands. */
function withPoint(cell: string): string {
  const text = squeeze(cell)
  return /^[-+]?[\d.\s'’]*(,\d+)?(\s*\D*)$/.test(text) && /\d/.test(text)
    ? text.replace(/[.\s'’](?=\d{3}(\D|$))/g, '').replace(/,(?=\d)/, '.')
    : cell
}

/** A date whose month came first, as YYYY-MM-DD; what else stands in the cell stays as it is. */
function dayFirst(cell: string): string {
  const [, month, , day, year, rest] = DATE.exec(squeeze(cell)) ?? []
  return month === undefined ? cell : `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}${rest}`
}

/** The locale of a reading that says none: a point, and the day first. */
export const localeOf = ({ decimal, monthFirst }: { decimal?: '.' | ','; monthFirst?: boolean }): FileLocale => ({
  decimal: decimal ?? '.',
  monthFirst: monthFirst ?? false,
})

/** The cells of a row as they are cleaned: cut, joined and reworded, and with numbers and dates in one locale. */
export function cellsToClean(
  { header, shaping, mapping, reading }: { header: string[]; shaping: Shaping; mapping: Mapping; reading: Reading },
  raw: string[],
  customs: readonly CustomField[],
): string[] {
  const kinds = new Map(customs.map((field) => [customKey(field.id) as string, field.kind]))
  return inOneLocale(shaped(raw, header.length, shaping), mapping, localeOf(reading), (field) => kinds.get(field))
}

import { stringify } from 'csv-stringify/sync'
import { safeCell } from '@/core/views/csv-cell'

/** Rows as CSV: UTF-8, CRLF and quotes by RFC 4180, cells safe to open in a spreadsheet. */
export function writeCsv(header: string[], rows: string[][]): Buffer {
  return Buffer.from(
    stringify(
      [header, ...rows].map((row) => row.map(safeCell)),
      { record_delimiter: 'windows', quoted_match: /[\r\n]/ },
    ),
    'utf8',
  )
}

/** One row as CSV, ending in CRLF, for files that are written piece by piece. */
export function csvRow(cells: string[]): string {
  return stringify([cells.map(safeCell)], { record_delimiter: 'windows', quoted_match: /[\r\n]/ })
}

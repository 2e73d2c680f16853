import { setImmediate as othersTurn } from 'node:timers/promises'
import { stringify } from 'csv-stringify/sync'
import { safeCell } from '@/core/views/csv-cell'

/** So many rows are written at a time before others have their turn. */
const PIECE = 1000

/**
 * Rows as CSV: UTF-8, CRLF and quotes by RFC 4180, cells safe to open in a spreadsheet. Between two pieces the process serves whoever
 * else waits for it.
 */
export async function writeCsv(header: string[], rows: string[][]): Promise<Buffer> {
  const pieces = [Buffer.from(csvRow(header))]
  for (let from = 0; from < rows.length; from += PIECE) {
    pieces.push(Buffer.from(csvRows(rows.slice(from, from + PIECE))))
    await othersTurn()
  }
  return Buffer.concat(pieces)
}

/** One row as CSV, ending in CRLF, for files that are written piece by piece. */
export const csvRow = (cells: string[]): string => csvRows([cells])

const csvRows = (rows: string[][]): string =>
  stringify(
    rows.map((row) => row.map(safeCell)),
    { record_delimiter: 'windows', quoted_match: /[\r\n]/ },
  )

import { createReadStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import { parse as parseStream } from 'csv-parse'
import { parse } from 'csv-parse/sync'
import iconv from 'iconv-lite'
import type { Reading } from '@/core/match/reading'
import { bestDelimiter, headerRowOf, titles } from '@/core/match/table'
import { encodingOf, headOf } from './encoding'
import { checkCells, checkWidth, type Format, isBlank, LONGEST_ROW, nothingStored, SHOWN_FIRST, Unreadable } from './format'
import { countText } from '@/core/text/written'

const DELIMITERS = [',', ';', '\t', '|']
const PEEK = 64 * 1024
const OPTIONS = { bom: true, relax_column_count: true, relax_quotes: true, skip_empty_lines: true, max_record_size: LONGEST_ROW } as const

/** Comma-separated values (RFC 4180), and what is like them: other delimiters, any common encoding, quotes within cells. */
export const csv: Format = {
  async look(path, asked) {
    const head = await headOf(path)
    const encoding = asked.encoding ?? (await encodingOf(path))
    const text = iconv.decode(head.subarray(0, PEEK), encoding)
    const whole = (await stat(path)).size > PEEK ? text.slice(0, text.lastIndexOf('\n') + 1) || text : text
    const tries = DELIMITERS.map((delimiter) => ({ delimiter, rows: peek(whole, delimiter) }))
    const delimiter =
      asked.delimiter ?? bestDelimiter(tries.map((t) => ({ delimiter: t.delimiter, widths: t.rows.map((row) => row.length) })))
    const rows = tries.find((t) => t.delimiter === delimiter)?.rows ?? []
    if (rows.length === 0)
      throw new Unreadable(
        whole.trim() === ''
          ? 'The file has no rows: there is nothing in it but blanks and line ends.'
          : 'No row of the file could be read as a table. Nothing was stored.',
      )
    const widest = Math.max(...rows.map((row) => row.length))
    checkWidth(widest)
    const headerRow = asked.headerRow ?? headerRowOf(rows)
    const header = titles(
      headerRow > 0 ? (rows[headerRow - 1] ?? []) : undefined,
      headerRow > 0 ? (rows[headerRow - 1]?.length ?? 0) : widest,
    )
    const reading: Reading = { format: 'csv', encoding, delimiter, headerRow }
    return {
      reading,
      header,
      first: rows.slice(headerRow, headerRow + SHOWN_FIRST),
      rows: await counted(path, reading, header),
      choices: {},
    }
  },

  async *rows(path, { encoding = 'UTF-8', delimiter = ',', headerRow }) {
    const rows = createReadStream(path, { highWaterMark: PEEK })
      .pipe(iconv.decodeStream(encoding))
      .pipe(parseStream({ ...OPTIONS, delimiter, from: headerRow + 1 }))
    for await (const row of rows) yield row
  },
}

function peek(text: string, delimiter: string): string[][] {
  try {
    return parse(text, { ...OPTIONS, delimiter, to: 60 })
  } catch (error) {
    // A quote that is open where the peek ends may well close further on; the whole file is checked when it is received.
    const { records = 0 } = error as { records?: number }
    return records > 0 ? parse(text, { ...OPTIONS, delimiter, to: records }) : []
  }
}

/** Reads to the end without keeping anything. Names the row and the column where that cannot be done, so that nothing is brought in by halves. */
async function counted(path: string, reading: Reading, header: string[]): Promise<number> {
  let rows = 0
  try {
    let n = 0
    for await (const row of csv.rows(path, reading, header)) {
      checkCells(row, ++n, (column) => (reading.headerRow > 0 ? header[column] : undefined))
      if (!isBlank(row)) rows++
    }
  } catch (error) {
    const { code, index, records = 0 } = error as { code?: string; index?: number; records?: number }
    if (!code?.startsWith('CSV_')) throw error
    const column = index === undefined ? '' : `, column ${index + 1}${header[index] && reading.headerRow > 0 ? ` (${header[index]})` : ''}`
    const where = `Row ${records + 1 - reading.headerRow}${column}`
    if (code === 'CSV_QUOTE_NOT_CLOSED')
      throw new Unreadable(
        `${where}: a quote opens there and never closes, so everything after it would be one cell. Mend that row and bring the file in again. ${nothingStored}`,
      )
    if (code === 'CSV_MAX_RECORD_SIZE')
      throw new Unreadable(
        `${where}: the row is longer than ${countText(LONGEST_ROW)} characters. Shorten it and bring the file in again. ${nothingStored}`,
      )
    throw new Unreadable(`${where}: the file cannot be read there (${(error as Error).message}). Nothing was stored.`)
  }
  if (rows === 0)
    throw new Unreadable(
      reading.headerRow > 0
        ? 'The file has a header and no rows. Nothing was stored.'
        : 'The file has no rows: there is nothing in it but blanks and line ends.',
    )
  return rows
}

import { detect } from 'chardet'
import { parse } from 'csv-parse/sync'
import { parse as parseStream } from 'csv-parse'
import iconv from 'iconv-lite'
import { Readable } from 'node:stream'
import { bestDelimiter, looksLikeHeader } from '@/core/match/table'
import { Refused } from './actor'

/** A row longer than this, in characters, is none that a person made. */
const LONGEST_ROW = 1_000_000
/** More columns than this are refused. */
const MOST_COLUMNS = 500

const DELIMITERS = [',', ';', '\t', '|']
const PEEK = 64 * 1024

/** How a file is to be read, found from its bytes. */
export interface CsvShape {
  encoding: string
  delimiter: string
  hasHeader: boolean
  header: string[]
  /** The first rows below the header. */
  first: string[][]
}

/** Finds encoding, delimiter and header. Throws Refused where the bytes are no table of text. */
export function csvShape(bytes: Buffer): CsvShape {
  if (bytes.length === 0) throw new Refused('The file is empty: it has no bytes at all.')
  const notText = NOT_TEXT.find(({ begins }) => begins.every((byte, i) => bytes[i] === byte))
  if (notText) throw new Refused(`The file is ${notText.what}, not text. Save it as CSV from the program it comes from, and bring that in. Nothing was stored.`)
  const encoding = encodingOf(bytes)
  const text = iconv.decode(bytes.subarray(0, PEEK), encoding)
  const whole = bytes.length > PEEK ? text.slice(0, text.lastIndexOf('\n') + 1) || text : text
  const tries = DELIMITERS.map((delimiter) => ({ delimiter, rows: peek(whole, delimiter) }))
  const delimiter = bestDelimiter(tries.map((t) => ({ delimiter: t.delimiter, widths: t.rows.map((row) => row.length) })))
  const rows = tries.find((t) => t.delimiter === delimiter)?.rows ?? []
  if (rows.length === 0) throw new Refused(whole.trim() === '' ? 'The file has no rows: there is nothing in it but blanks and line ends.' : 'No row of the file could be read as a table. Nothing was stored.')
  const widest = Math.max(...rows.map((row) => row.length))
  if (widest > MOST_COLUMNS) throw new Refused(`The file has ${widest} columns; at most ${MOST_COLUMNS} are taken. Nothing was stored.`)
  const hasHeader = looksLikeHeader(rows[0], rows[1])
  const header = hasHeader ? rows[0].map((cell) => cell.trim()) : rows[0].map((_, i) => `Column ${i + 1}`)
  return { encoding, delimiter, hasHeader, header, first: rows.slice(hasHeader ? 1 : 0, 21) }
}

function encodingOf(bytes: Buffer): string {
  const head = bytes.subarray(0, 1024 * 1024)
  if (head.subarray(0, 4096).includes(0) && !(head[0] === 0xff && head[1] === 0xfe) && !(head[0] === 0xfe && head[1] === 0xff)) {
    throw new Refused('The file is not text: it has zero bytes in it. Save it as CSV from the program it comes from.')
  }
  const found = detect(head) ?? 'UTF-8'
  return iconv.encodingExists(found) ? found : 'UTF-8'
}

function peek(text: string, delimiter: string): string[][] {
  try {
    return parse(text, { ...OPTIONS, delimiter, to: 40 })
  } catch (error) {
    // A quote that is open where the peek ends may well close further on; the whole file is checked when it is received.
    const { records = 0 } = error as { records?: number }
    return records > 0 ? parse(text, { ...OPTIONS, delimiter, to: records }) : []
  }
}

const OPTIONS = { bom: true, relax_column_count: true, relax_quotes: true, skip_empty_lines: true, max_record_size: LONGEST_ROW } as const

/** The rows of a file, one at a time, without its header. */
export async function* csvRows(bytes: Buffer, { encoding, delimiter, hasHeader }: Pick<CsvShape, 'encoding' | 'delimiter' | 'hasHeader'>): AsyncGenerator<string[]> {
  const rows = Readable.from(blocks(bytes)).pipe(iconv.decodeStream(encoding)).pipe(parseStream({ ...OPTIONS, delimiter, from: hasHeader ? 2 : 1 }))
  for await (const row of rows) yield row
}

/**
 * Reads a file to its end without keeping anything and gives how many rows it has. Throws Refused that names the row and
 * the column where it cannot be read, so that nothing is brought in by halves.
 */
export async function countRows(bytes: Buffer, shape: CsvShape): Promise<number> {
  let rows = 0
  try {
    for await (const row of csvRows(bytes, shape)) if (row.some((cell) => cell.trim() !== '')) rows++
  } catch (error) {
    const { code, index, records = 0 } = error as { code?: string; index?: number; records?: number }
    if (!code?.startsWith('CSV_')) throw error
    const column = index === undefined ? '' : `, column ${index + 1}${shape.header[index] && shape.hasHeader ? ` (${shape.header[index]})` : ''}`
    const where = `Row ${records + 1 - (shape.hasHeader ? 1 : 0)}${column}`
    if (code === 'CSV_QUOTE_NOT_CLOSED') throw new Refused(`${where}: a quote opens there and never closes, so everything after it would be one cell. Mend that row and bring the file in again. Nothing was stored, and the file is as you have it.`)
    if (code === 'CSV_MAX_RECORD_SIZE') throw new Refused(`${where}: the row is longer than ${LONGEST_ROW.toLocaleString('en-GB')} characters. Shorten it and bring the file in again. Nothing was stored, and the file is as you have it.`)
    throw new Refused(`${where}: the file cannot be read there (${(error as Error).message}). Nothing was stored.`)
  }
  if (rows === 0) throw new Refused(shape.hasHeader ? 'The file has a header and no rows. Nothing was stored.' : 'The file has no rows: there is nothing in it but blanks and line ends.')
  return rows
}

/** First bytes of files that are often named .csv and are none (from memory). */
const NOT_TEXT = [
  { begins: [0x50, 0x4b, 0x03, 0x04], what: 'a spreadsheet or an archive' },
  { begins: [0xd0, 0xcf, 0x11, 0xe0], what: 'a spreadsheet of an old kind' },
  { begins: [0x25, 0x50, 0x44, 0x46], what: 'a PDF' },
  { begins: [0x89, 0x50, 0x4e, 0x47], what: 'a picture' },
  { begins: [0xff, 0xd8, 0xff], what: 'a picture' },
  { begins: [0x47, 0x49, 0x46, 0x38], what: 'a picture' },
  { begins: [0x1f, 0x8b], what: 'a compressed file' },
]

function* blocks(bytes: Buffer): Generator<Buffer> {
  for (let i = 0; i < bytes.length; i += PEEK) yield bytes.subarray(i, i + PEEK)
}

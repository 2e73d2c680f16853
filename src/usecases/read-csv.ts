import { detect } from 'chardet'
import { parse } from 'csv-parse/sync'
import { parse as parseStream } from 'csv-parse'
import iconv from 'iconv-lite'
import { Readable } from 'node:stream'
import { bestDelimiter, looksLikeHeader } from '@/core/match/table'
import { Refused } from './actor'

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
  const encoding = encodingOf(bytes)
  const text = iconv.decode(bytes.subarray(0, PEEK), encoding)
  const whole = bytes.length > PEEK ? text.slice(0, text.lastIndexOf('\n') + 1) || text : text
  const tries = DELIMITERS.map((delimiter) => ({ delimiter, rows: peek(whole, delimiter) }))
  const delimiter = bestDelimiter(tries.map((t) => ({ delimiter: t.delimiter, widths: t.rows.map((row) => row.length) })))
  const rows = tries.find((t) => t.delimiter === delimiter)?.rows ?? []
  if (rows.length === 0) throw new Refused('No row of the file could be read as a table.')
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
  } catch {
    return []
  }
}

const OPTIONS = { bom: true, relax_column_count: true, relax_quotes: true, skip_empty_lines: true } as const

/** The rows of a file, one at a time, without its header. */
export async function* csvRows(bytes: Buffer, { encoding, delimiter, hasHeader }: Pick<CsvShape, 'encoding' | 'delimiter' | 'hasHeader'>): AsyncGenerator<string[]> {
  const rows = Readable.from(blocks(bytes)).pipe(iconv.decodeStream(encoding)).pipe(parseStream({ ...OPTIONS, delimiter, from: hasHeader ? 2 : 1 }))
  for await (const row of rows) yield row
}

function* blocks(bytes: Buffer): Generator<Buffer> {
  for (let i = 0; i < bytes.length; i += PEEK) yield bytes.subarray(i, i + PEEK)
}

import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { setImmediate as othersTurn } from 'node:timers/promises'
import type { Knex } from 'knex'
import type { PoolClient } from 'pg'
import { from as copyFrom, to as copyTo } from 'pg-copy-streams'

/** Bytes before the first row of a binary COPY. Source: PostgreSQL manual, COPY, binary format. */
const HEADER = 19

/**
 * One row as COPY sends it in binary, read field by field in order and in place: nothing is made for a row but what is
 * asked for. The caller asks for each field by the type it was selected as.
 */
export class CopiedRow {
  bytes: Buffer = Buffer.alloc(0)
  /** Where the bytes of the field read last begin, and how many they are; −1 where it was null. */
  from = 0
  length = 0
  private at = 0

  /** Points at the row that begins at `at`, after its count of fields. */
  point(bytes: Buffer, at: number): void {
    this.bytes = bytes
    this.at = at
  }

  /** Steps over a field and leaves `from` and `length` at it. */
  span(): void {
    this.length = this.bytes.readInt32BE(this.at)
    this.from = this.at + 4
    this.at = this.from + Math.max(0, this.length)
  }

  /** An int8 from 0 to 2^53, or −1 for null. */
  int8(): number {
    this.span()
    return this.length < 0 ? -1 : int8At(this.bytes, this.from)
  }

  /** An int4, or −1 for null. */
  int4(): number {
    this.span()
    return this.length < 0 ? -1 : this.bytes.readInt32BE(this.from)
  }

  /** A float8, or null. */
  float8(): number | null {
    this.span()
    return this.length < 0 ? null : this.bytes.readDoubleBE(this.from)
  }

  /** A timestamp in UTC milliseconds, or null. Source: PostgreSQL manual, date/time types: microseconds since 2000. */
  instant(): number | null {
    this.span()
    return this.length < 0 ? null : instantAt(this.bytes, this.from)
  }

  bool(): boolean {
    this.span()
    return this.length > 0 && this.bytes[this.from] === 1
  }

  text(): string | null {
    this.span()
    return this.length < 0 ? null : this.bytes.toString('utf8', this.from, this.from + this.length)
  }

  /** A one-dimensional array of text: dimensions, flags, element type, length, lower bound, elements. */
  texts(): string[] {
    this.span()
    if (this.length < 0 || this.bytes.readInt32BE(this.from) === 0) return []
    const items: string[] = []
    let at = this.from + 20
    for (let i = this.bytes.readInt32BE(this.from + 12); i > 0; i--) {
      const length = this.bytes.readInt32BE(at)
      items.push(this.bytes.toString('utf8', at + 4, at + 4 + length))
      at += 4 + length
    }
    return items
  }
}

const MICROSECONDS_TO_2000 = 946_684_800_000_000

/** The timestamp in UTC milliseconds, to the microsecond, that is written at a place as eight bytes. */
export function instantAt(bytes: Buffer, at: number): number {
  return (int8At(bytes, at) + MICROSECONDS_TO_2000) / 1000
}

/** The whole number of eight bytes at a place, exact between −2^53 and 2^53. */
export function int8At(bytes: Buffer, at: number): number {
  return bytes.readInt32BE(at) * 4294967296 + bytes.readUInt32BE(at + 4)
}

/**
 * Reads the rows of a query as COPY sends them in binary. `trx` must be a transaction; `sql` takes no parameters. The row
 * that is visited is good until the visit ends.
 */
export async function copyRows(trx: Knex, sql: string, visit: (row: CopiedRow) => void): Promise<void> {
  await (await startCopy(trx, sql))(visit)
}

/**
 * The same in two steps: the database begins at once, and the rows are fetched when what is given back is called. It must
 * be called: until the rows are fetched the connection can do nothing else, not even roll back.
 */
export async function startCopy(trx: Knex, sql: string): Promise<(visit: (row: CopiedRow) => void) => Promise<void>> {
  const client = (await trx.client.acquireConnection()) as PoolClient
  const stream = client.query(copyTo(`copy (${sql}) to stdout (format binary)`))
  // What goes wrong before anybody fetches is told to whoever does.
  stream.on('error', () => {})
  return (visit) => fetchRows(stream, visit)
}

async function fetchRows(stream: AsyncIterable<unknown>, visit: (row: CopiedRow) => void): Promise<void> {
  const row = new CopiedRow()
  let held: Buffer = Buffer.alloc(0)
  let begun = false
  for await (const chunk of stream) {
    const bytes = held.length > 0 ? Buffer.concat([held, chunk as Buffer]) : (chunk as Buffer)
    let at = 0
    if (!begun) {
      if (bytes.length < HEADER) {
        held = bytes
        continue
      }
      at = HEADER + bytes.readInt32BE(15)
      begun = true
    }
    for (;;) {
      const end = rowEnd(bytes, at)
      if (end < 0) break
      if (end > at + 2) {
        row.point(bytes, at + 2)
        visit(row)
      }
      at = end
    }
    held = bytes.subarray(at)
  }
}

/** Where the row that begins at `at` ends, or −1 where it is not all there. The trailer counts as an empty row. */
function rowEnd(bytes: Buffer, at: number): number {
  const size = bytes.length
  if (at + 2 > size) return -1
  let end = at + 2
  for (let i = bytes.readInt16BE(at); i > 0; i--) {
    if (end + 4 > size) return -1
    const length = bytes.readInt32BE(end)
    end += length > 0 ? 4 + length : 4
    if (end > size) return -1
  }
  return end
}

const SPECIAL: Record<string, string> = { '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r' }
/** Rows are handed to COPY in pieces of about so many characters. */
const PIECE = 65_536

/**
 * Writes rows into a table as COPY takes them in text, each as it is made, so that making and writing go on side by side. Between two
 * pieces the process serves whoever else waits for it, however long it takes to make a row.
 * `trx` must be a transaction; texts must be such as the database has given. Source of the escapes: PostgreSQL manual,
 * COPY, text format.
 */
export async function copyIn(
  trx: Knex,
  table: string,
  columns: readonly string[],
  rows: Iterable<readonly (string | number | null)[]>,
): Promise<void> {
  const client = (await trx.client.acquireConnection()) as PoolClient
  const stream = client.query(copyFrom(`copy ${table} (${columns.join(', ')}) from stdin`))
  await pipeline(Readable.from(pieces(rows)), stream)
}

async function* pieces(rows: Iterable<readonly (string | number | null)[]>): AsyncGenerator<string> {
  let piece = ''
  for (const row of rows) {
    for (let i = 0; i < row.length; i++) {
      const value = row[i]
      piece += `${i > 0 ? '\t' : ''}${value === null ? '\\N' : typeof value === 'number' ? value : value.replace(/[\\\t\n\r]/g, (c) => SPECIAL[c])}`
    }
    piece += '\n'
    if (piece.length < PIECE) continue
    yield piece
    piece = ''
    await othersTurn()
  }
  yield piece
}

import type { Knex } from 'knex'
import type { PoolClient } from 'pg'
import { to as copyTo } from 'pg-copy-streams'

/** The types a column can be read as. Instants are selected as milliseconds in `float8`. */
export type ColumnType = 'int8' | 'int4' | 'float8' | 'bool' | 'text' | 'text[]' | 'int8[]'

/** Bytes before the first row, and the length of a row's count of fields. Source: PostgreSQL manual, COPY, binary format. */
const HEADER = 19

/**
 * Reads the rows of a query as COPY sends them in binary: some five times as fast as rows one by one. `trx` must be a
 * transaction; `sql` takes no parameters. Each row is an array of values in the order of `types`; null stays null.
 */
export async function copyRows(trx: Knex, sql: string, types: readonly ColumnType[], visit: (row: unknown[]) => void): Promise<void> {
  const client = (await trx.client.acquireConnection()) as PoolClient
  const stream = client.query(copyTo(`copy (${sql}) to stdout (format binary)`))
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
      if (end > at + 2) visit(readRow(bytes, at + 2, types))
      at = end
    }
    held = bytes.subarray(at)
  }
}

/** Where the row that begins at `at` ends, or -1 where it is not all there. The trailer counts as an empty row. */
function rowEnd(bytes: Buffer, at: number): number {
  if (at + 2 > bytes.length) return -1
  const fields = bytes.readInt16BE(at)
  let end = at + 2
  for (let i = 0; i < fields; i++) {
    if (end + 4 > bytes.length) return -1
    end += 4 + Math.max(0, bytes.readInt32BE(end))
    if (end > bytes.length) return -1
  }
  return end
}

function readRow(bytes: Buffer, from: number, types: readonly ColumnType[]): unknown[] {
  const row = new Array<unknown>(types.length)
  let at = from
  for (let i = 0; i < types.length; i++) {
    const length = bytes.readInt32BE(at)
    at += 4
    row[i] = length < 0 ? null : readValue(bytes, at, length, types[i])
    at += Math.max(0, length)
  }
  return row
}

function readValue(bytes: Buffer, at: number, length: number, type: ColumnType): unknown {
  switch (type) {
    case 'int8':
      return bytes.readInt32BE(at) * 4294967296 + bytes.readUInt32BE(at + 4)
    case 'int4':
      return bytes.readInt32BE(at)
    case 'float8':
      return bytes.readDoubleBE(at)
    case 'bool':
      return bytes[at] === 1
    case 'text':
      return bytes.toString('utf8', at, at + length)
    default:
      return readArray(bytes, at, type === 'text[]' ? 'text' : 'int8')
  }
}

/** A one-dimensional array: dimensions, flags, element type, length, lower bound, elements. */
function readArray(bytes: Buffer, from: number, type: ColumnType): unknown[] {
  if (bytes.readInt32BE(from) === 0) return []
  const count = bytes.readInt32BE(from + 12)
  const items: unknown[] = []
  let at = from + 20
  for (let i = 0; i < count; i++) {
    const length = bytes.readInt32BE(at)
    items.push(readValue(bytes, at + 4, length, type))
    at += 4 + length
  }
  return items
}

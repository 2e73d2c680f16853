import { createHash } from 'node:crypto'
import { type BatchKind, FIELDS, guessMapping, type Mapping } from '@/core/match/columns'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from './actor'
import { countRows, csvShape } from './read-csv'

/** Largest file that is taken, in bytes. */
export const LARGEST_FILE = 64 * 1024 * 1024

/**
 * Takes a file in and finds out how to read it. Nothing is stored in the directory yet: the batch waits for its mapping
 * to be looked at. The mapping last used for the same header is taken again; otherwise it is guessed.
 */
export async function receiveFile(actor: Actor, file: { name: string; bytes: Buffer; kind?: BatchKind }): Promise<number> {
  mustCoordinate(actor, 'Bringing in a file')
  if (file.bytes.length > LARGEST_FILE) throw new Refused(`The file has ${Math.round(file.bytes.length / 1048576)} MB; at most 64 MB are taken at a time.`)
  const shape = csvShape(file.bytes)
  await countRows(file.bytes, shape)
  const kind = file.kind ?? guessKind(shape.header, shape.first)
  const known = await db()('column_mapping').where({ kind, header_key: headerKey(shape.header) }).first('mapping')
  const mapping: Mapping = known?.mapping ?? guessMapping(kind, shape.header, shape.first)
  return db().transaction(async (trx) => {
    const [{ id }] = await trx('batch').insert(
      {
        kind,
        file_name: file.name.slice(0, 200),
        encoding: shape.encoding,
        delimiter: shape.delimiter,
        has_header: shape.hasHeader,
        header: shape.header,
        mapping: JSON.stringify(mapping),
        actor_id: actor.id,
        created_at: now(),
      },
      'id',
    )
    await trx('batch_file').insert({ batch_id: id, bytes: file.bytes, sha256: createHash('sha256').update(file.bytes).digest('hex') })
    return id
  })
}

/** The kind whose guess uses most columns; where they are even, people. */
function guessKind(header: string[], rows: string[][]): BatchKind {
  const used = (kind: BatchKind) => guessMapping(kind, header, rows).filter(Boolean).length
  const kinds = Object.keys(FIELDS) as BatchKind[]
  return kinds.reduce((best, kind) => (used(kind) > used(best) ? kind : best))
}

/** Files with the same columns in the same order have the same key. */
export function headerKey(header: string[]): string {
  return createHash('sha256').update(JSON.stringify(header)).digest('hex')
}

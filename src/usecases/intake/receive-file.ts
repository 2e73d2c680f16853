import { insertBatch } from '@/db/intake/batch-rows'
import { createHash } from 'node:crypto'
import { type BatchKind, FIELDS, guessMapping, type Mapping } from '@/core/match/columns'
import { type FileLocale, guessLocale } from '@/core/match/file-locale'
import type { Reading } from '@/core/match/reading'
import { db, type Knex } from '@/db/connection'
import { type Shape, Unreadable } from '@/formats'
import { lookOutside } from '@/formats/outside'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { fingerprint, withIncoming } from './batch-file'
import { intakeFields } from '@/usecases/directory/custom-fields'
import { keepFile } from '@/db/intake/batch-file'
import { lastMapping } from '@/db/intake/mapping-rows'

export interface IncomingFile {
  name: string
  bytes: Buffer | AsyncIterable<Uint8Array>
  kind?: BatchKind
}

/**
 * Takes a file in and finds out how to read it. Nothing is stored in the directory yet: the batch waits for its mapping
 * to be looked at. The mapping last used for the same header is taken again; otherwise it is guessed.
 */
export async function receiveFile(actor: Actor, { name, bytes, kind: asked }: IncomingFile): Promise<number> {
  mustCoordinate(actor, 'Bringing in a file')
  return withIncoming(Buffer.isBuffer(bytes) ? once(bytes) : bytes, async (path) => {
    const shape = await refusing(() => lookOutside(path))
    const kind = asked ?? (shape.reading.format === 'geojson' ? 'premises' : guessKind(shape.header, shape.first))
    const print = await fingerprint(path)
    return db().transaction(async (trx) => {
      const read = { ...columnsOf(shape), ...(await mappingFor(trx, kind, shape)) }
      const [{ id }] = await insertBatch(trx, { kind, file_name: name.slice(0, 200), ...read, actor_id: actor.id, created_at: now() })
      await keepFile(trx, id, path, print)
      return id
    })
  })
}

/** How the team itself writes numbers and dates, by its region (common practice, no source). */
const usual = (): FileLocale => ({ decimal: '.', monthFirst: settings().ARCH_REGION === 'US' })

/** Returns the columns of a batch that hold what was read of its file. */
export const columnsOf = (shape: Shape, asked: Partial<Reading> = {}) => ({
  reading: JSON.stringify({ ...shape.reading, ...localeAsked(shape, asked) }),
  choices: JSON.stringify(shape.choices),
  header: shape.header,
  first_rows: JSON.stringify(shape.first),
})

/** How columns with this header were mapped the last time, or as they are guessed to be. */
export async function mappingFor(trx: Knex, kind: BatchKind, { header, first }: Shape): Promise<{ mapping: string; shaping: string }> {
  const known = await lastMapping(trx, headerKey(header), kind)
  const mapping: Mapping = known?.mapping ?? guessMapping(kind, header, first, await intakeFields(trx, kind))
  return { mapping: JSON.stringify(mapping), shaping: JSON.stringify(known?.shaping ?? {}) }
}

/** How the file writes numbers and dates: as somebody said, else as its first rows tell. */
function localeAsked({ first, reading }: Shape, asked: Partial<Reading>): FileLocale {
  const guessed = guessLocale(first, reading.delimiter, usual())
  return {
    decimal: asked.decimal === ',' || asked.decimal === '.' ? asked.decimal : guessed.decimal,
    monthFirst: typeof asked.monthFirst === 'boolean' ? asked.monthFirst : guessed.monthFirst,
  }
}

async function* once(bytes: Buffer): AsyncGenerator<Buffer> {
  if (bytes.length > 0) yield bytes
}

/** What cannot be read is refused with the sentence that says why. */
export async function refusing<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    throw error instanceof Unreadable ? new Refused(error.message) : error
  }
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

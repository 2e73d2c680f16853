import { rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import type { FormatName, Reading } from '@/core/match/reading'
import { tempFolder } from '@/runtime/temp-folder'
import { entriesOf, unpack } from './archive'
import { csv } from './csv'
import { headOf } from './encoding'
import { type Format, type Shape, Unreadable } from './format'
import { geojson } from './geojson'
import { jsonl } from './jsonl'
import { vcard } from './vcard'
import { xlsx } from './xlsx'

export { type Shape, Unreadable } from './format'

const FORMATS: Record<FormatName, Format> = { csv, xlsx, jsonl, geojson, vcard }

/**
 * Finds out what a file is and reads it to its end, as asked where something is asked for. Throws Unreadable that says
 * what is wrong and where.
 */
export async function look(path: string, asked: Partial<Reading> = {}): Promise<Shape> {
  if ((await stat(path)).size === 0) throw new Unreadable('The file is empty: it has no bytes at all.')
  const entries = await filesIn(path)
  if (!entries) return lookAt(path, asked)
  if (entries.length === 0) throw new Unreadable('The archive holds no file that rows could be read from. Nothing was stored.')
  const entry = asked.entry ?? entries[0]
  const { inner, remove } = await unpacked(path, entry)
  try {
    if (await filesIn(inner))
      throw new Unreadable(`“${entry}” is an archive within the archive. Unpack it, and bring in what is in it. Nothing was stored.`)
    const shape = await lookAt(inner, entry === asked.entry ? asked : {})
    return { ...shape, reading: { ...shape.reading, entry }, choices: { ...shape.choices, entries } }
  } finally {
    await remove()
  }
}

/** The rows of a file that was looked at, below its titles. */
export async function* rowsOf(path: string, reading: Reading, header: string[]): AsyncGenerator<string[]> {
  const { inner, remove } = await unpacked(path, reading.entry)
  try {
    yield* FORMATS[reading.format].rows(inner, reading, header)
  } finally {
    await remove()
  }
}

async function lookAt(path: string, asked: Partial<Reading>): Promise<Shape> {
  return FORMATS[asked.format ?? (await formatOf(path))].look(path, asked)
}

/** A file of an archive, unpacked for as long as it is needed; without an entry the file itself. */
async function unpacked(path: string, entry: string | undefined): Promise<{ inner: string; remove: () => Promise<void> }> {
  if (entry === undefined) return { inner: path, remove: async () => {} }
  const folder = await tempFolder('entry')
  const remove = () => rm(folder, { recursive: true, force: true })
  const inner = join(folder, 'entry')
  await unpack(path, entry, inner).catch((error) => remove().then(() => Promise.reject(error)))
  return { inner, remove }
}

const ZIP = [0x50, 0x4b, 0x03, 0x04]
const EMPTY_ZIP = [0x50, 0x4b, 0x05, 0x06]

const begins = (head: Buffer, bytes: number[]) => bytes.every((byte, i) => head[i] === byte)

/** The files of an archive that rows may be read from; null where it is no archive, or one that is a workbook. */
async function filesIn(path: string): Promise<string[] | null> {
  const head = await headOf(path, 8)
  if (!begins(head, ZIP) && !begins(head, EMPTY_ZIP)) return null
  const names = await entriesOf(path)
  if (names.includes('xl/workbook.xml')) return null
  return names.filter(
    (name) =>
      !name.endsWith('/') &&
      !/(^|\/)(\.|__MACOSX\/)/.test(name) &&
      /\.(csv|tsv|tab|txt|xlsx|jsonl|ndjson|json|geojson|vcf|vcard|zip)$/i.test(name),
  )
}

async function formatOf(path: string): Promise<FormatName> {
  const head = await headOf(path, 4096)
  if (begins(head, ZIP)) return 'xlsx'
  const notText = NOT_TEXT.find(({ bytes }) => begins(head, bytes))
  if (notText)
    throw new Unreadable(
      `The file is ${notText.what}, not text. Save it as CSV from the program it comes from, and bring that in. Nothing was stored.`,
    )
  const text = head
    .toString('utf8')
    .replace(/^\uFEFF/, '')
    .trimStart()
  if (/^BEGIN:VCARD/i.test(text)) return 'vcard'
  // RFC 7946, 3.3: the one member that tells a collection; it may stand after others.
  if (/^\{/.test(text) && /"type"\s*:\s*"FeatureCollection"|"features"\s*:\s*\[/.test(text)) return 'geojson'
  if (/^\{\s*("|\})/.test(text)) return 'jsonl'
  if (/^\[\s*\{/.test(text))
    throw new Unreadable('The file is one JSON array. Save it as JSON Lines, one object a line, and bring that in. Nothing was stored.')
  return 'csv'
}

/** First bytes of files that are often named .csv and are none (from memory). */
const NOT_TEXT = [
  { bytes: [0xd0, 0xcf, 0x11, 0xe0], what: 'a spreadsheet of an old kind' },
  { bytes: [0x25, 0x50, 0x44, 0x46], what: 'a PDF' },
  { bytes: [0x89, 0x50, 0x4e, 0x47], what: 'a picture' },
  { bytes: [0xff, 0xd8, 0xff], what: 'a picture' },
  { bytes: [0x47, 0x49, 0x46, 0x38], what: 'a picture' },
  { bytes: [0x1f, 0x8b], what: 'a compressed file' },
]

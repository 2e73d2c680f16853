import { createReadStream } from 'node:fs'
import { createInterface } from 'node:readline'
import iconv from 'iconv-lite'
import { isLosslessNumber, parse, stringify } from 'lossless-json'
import { encodingOf } from './encoding'
import { checkCells, checkWidth, type Format, LONGEST_ROW, nothingStored, SHOWN_FIRST, Unreadable } from './format'
import { countText } from '@/core/text/written'

/** JSON Lines: one JSON object (RFC 8259) a line. Numbers keep every digit they came with. What is nested is named by its path, plain values of an array are joined. */
export const jsonl: Format = {
  async look(path, asked) {
    const encoding = asked.encoding ?? (await encodingOf(path))
    const columns = new Set<string>()
    const shown: Map<string, string>[] = []
    let rows = 0
    for await (const record of records(path, encoding)) {
      for (const key of record.keys()) columns.add(key)
      checkWidth(columns.size)
      if (shown.length < SHOWN_FIRST) shown.push(record)
      rows++
    }
    if (rows === 0) throw new Unreadable('The file has no rows: there is nothing in it but blanks and line ends.')
    const header = [...columns]
    return {
      reading: { format: 'jsonl', encoding, headerRow: 0 },
      header,
      first: shown.map((record) => cells(record, header)),
      rows,
      choices: {},
    }
  },

  async *rows(path, { encoding = 'UTF-8' }, header) {
    for await (const record of records(path, encoding)) yield cells(record, header)
  },
}

const cells = (record: Map<string, string>, header: string[]): string[] => header.map((key) => record.get(key) ?? '')

async function* records(path: string, encoding: string): AsyncGenerator<Map<string, string>> {
  const lines = createInterface({
    input: createReadStream(path).pipe(iconv.decodeStream(encoding)) as unknown as NodeJS.ReadableStream,
    crlfDelay: Number.POSITIVE_INFINITY,
  })
  let number = 0
  for await (const line of lines) {
    number++
    if (line.trim() === '') continue
    if (line.length > LONGEST_ROW)
      throw new Unreadable(`Line ${number} is longer than ${countText(LONGEST_ROW)} characters. ${nothingStored}`)
    const record = new Map<string, string>()
    try {
      flatten(parsed(line, number), '', record, 0)
    } catch (error) {
      // Only a value nested thousands of levels deep runs out of stack.
      throw error instanceof RangeError ? new Unreadable(`Line ${number} is nested too deeply to be read. ${nothingStored}`) : error
    }
    const titles = [...record.keys()]
    checkCells(record.values(), number, (column) => titles[column])
    yield record
  }
}

function parsed(line: string, number: number): object {
  let value: unknown
  try {
    value = parse(line)
  } catch (error) {
    if (error instanceof RangeError) throw error
    throw new Unreadable(
      `Line ${number} is not JSON (${(error as Error).message.slice(0, 120)}). Mend that line and bring the file in again. ${nothingStored}`,
    )
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw new Unreadable(`Line ${number} is not an object with names and values. ${nothingStored}`)
  return value
}

/** Values by their path: *address.town*, *phones.1.number* (from 1). Deeper than eight levels stays as JSON. */
export function flatten(value: unknown, path: string, into: Map<string, string>, depth: number): void {
  if (value === null || value === undefined) return
  if (typeof value !== 'object' || isLosslessNumber(value)) into.set(path || 'value', String(value))
  else if (depth >= 8) into.set(path, stringify(value) ?? '')
  else if (Array.isArray(value) && value.every((item) => typeof item !== 'object' || isLosslessNumber(item)))
    into.set(path, value.join('; '))
  else
    for (const [key, inner] of Object.entries(value))
      flatten(inner, `${path}${path ? '.' : ''}${Array.isArray(value) ? Number(key) + 1 : key}`, into, depth + 1)
}

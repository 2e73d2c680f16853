import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { Reading } from '@/core/match/reading'
import { headerRowOf, titles } from '@/core/match/table'
import { tempFolder } from '@/runtime/temp-folder'
import { entriesOf, unpack } from './archive'
import { checkCells, checkWidth, type Format, SHOWN_FIRST, Unreadable } from './format'
import { type Book, cellsOf, elementsOf, patternsOf, sharedTexts, Texts } from './sheet'

/** How many rows are kept to find the titles in. */
const PEEK = 60

/**
 * Workbooks (ISO/IEC 29500-1, SpreadsheetML): one sheet, its rows as they look. Numbers by their format, dates as ISO 8601,
 * formulas by their last result. Blank rows are passed over. Texts that cells share are held in memory as bytes, the rest is not.
 */
export const xlsx: Format = {
  look: (path, asked) =>
    opened(path, async (book) => {
      const visible = book.sheets.filter((sheet) => !sheet.hidden)
      const names = (visible.length > 0 ? visible : book.sheets).map((sheet) => sheet.name)
      if (asked.sheet !== undefined && !names.includes(asked.sheet))
        throw new Unreadable(`There is no sheet “${asked.sheet}” in the workbook.`)
      for (const sheet of asked.sheet === undefined ? names : [asked.sheet]) {
        const shape = await shapeOf(book, { format: 'xlsx', sheet, headerRow: asked.headerRow ?? -1 })
        if (shape) return { ...shape, choices: { sheets: names } }
      }
      throw new Unreadable(
        asked.sheet === undefined
          ? 'No sheet of the workbook holds a row. Nothing was stored.'
          : `The sheet “${asked.sheet}” holds no rows.`,
      )
    }),

  async *rows(path, { sheet, headerRow }) {
    const book = await unpacked(path)
    try {
      let n = 0
      for await (const row of book.rows(sheet as string)) if (++n > headerRow) yield row
    } finally {
      await book.remove()
    }
  },
}

async function shapeOf(book: Opened, reading: Reading) {
  const top: string[][] = []
  let [rows, widest] = [0, 0]
  for await (const row of book.rows(reading.sheet as string)) {
    if (top.length < PEEK) top.push(row)
    // Where the titles stand is not known yet, so rows are counted as the sheet has them.
    checkCells(row, rows + 1, () => undefined)
    widest = Math.max(widest, row.length)
    checkWidth(widest)
    rows++
  }
  if (rows === 0) return null
  const headerRow = reading.headerRow >= 0 ? reading.headerRow : headerRowOf(top)
  if (rows <= headerRow) throw new Unreadable('The sheet has titles and no rows. Nothing was stored.')
  return {
    reading: { ...reading, headerRow },
    header: titles(headerRow > 0 ? (top[headerRow - 1] ?? []) : undefined, widest),
    first: top.slice(headerRow, headerRow + SHOWN_FIRST),
    rows: rows - headerRow,
  }
}

interface Opened {
  sheets: { name: string; hidden: boolean; part: string }[]
  rows(sheet: string): AsyncGenerator<string[]>
  remove(): Promise<void>
}

async function opened<T>(path: string, work: (book: Opened) => Promise<T>): Promise<T> {
  const book = await unpacked(path)
  try {
    return await work(book)
  } finally {
    await book.remove()
  }
}

/** A workbook, a part of it at a time unpacked into a folder of its own. */
async function unpacked(path: string): Promise<Opened> {
  const names = await entriesOf(path)
  const folder = await tempFolder('book')
  const remove = () => rm(folder, { recursive: true, force: true })
  const out = new Map<string, Promise<string>>()
  const part = (name: string): Promise<string> => {
    if (!out.has(name)) {
      const into = join(folder, String(out.size))
      out.set(
        name,
        unpack(path, name, into).then(() => into),
      )
    }
    return out.get(name) as Promise<string>
  }
  try {
    if (!names.includes('xl/workbook.xml') || !names.includes(RELATIONS))
      throw new Unreadable('The workbook has no table of contents, so its sheets cannot be found. Nothing was stored.')
    const parts = new Map(
      (await attributesOf(await part(RELATIONS), 'Relationship')).map(({ Id, Target, Type }) => [
        Id,
        { name: Target.startsWith('/') ? Target.slice(1) : `xl/${Target}`, type: Type.slice(Type.lastIndexOf('/') + 1) },
      ]),
    )
    const named = (type: string) => [...parts.values()].find((p) => p.type === type && names.includes(p.name))?.name
    const contents = await part('xl/workbook.xml')
    const sheets = (await attributesOf(contents, 'sheet')).map((sheet) => ({
      name: sheet.name,
      hidden: (sheet.state ?? 'visible') !== 'visible',
      part: parts.get(Object.entries(sheet).find(([key]) => key.endsWith(':id'))?.[1] ?? '')?.name ?? '',
    }))
    const [about] = await attributesOf(contents, 'workbookPr')
    let book: Promise<Book> | undefined
    const refers = async (): Promise<Book> => ({
      shared: named('sharedStrings') ? await sharedTexts(await part(named('sharedStrings') as string)) : new Texts(),
      patterns: named('styles') ? await patternsOf(await part(named('styles') as string)) : [],
      from1904: ['1', 'true'].includes(about?.date1904 ?? ''),
    })
    return {
      sheets: sheets.filter((sheet) => names.includes(sheet.part)),
      async *rows(name) {
        const sheet = sheets.find((s) => s.name === name)
        if (!sheet) throw new Unreadable(`There is no sheet “${name}” in the workbook.`)
        yield* cellsOf(await part(sheet.part), await (book ??= refers()))
      },
      remove,
    }
  } catch (error) {
    await remove()
    throw error
  }
}

const RELATIONS = 'xl/_rels/workbook.xml.rels'

async function attributesOf(path: string, name: string): Promise<Record<string, string>[]> {
  const found: Record<string, string>[] = []
  for await (const block of elementsOf(path))
    for (const element of block) if ('begins' in element && element.begins === name) found.push(element.attributes)
  return found
}

import ExcelJS from 'exceljs'
import { format as asShown, isDateFormat } from 'numfmt'
import { SaxesParser } from 'saxes'
import type { Reading } from '@/core/match/reading'
import { headerRowOf, titles } from '@/core/match/table'
import { entriesOf, textOf } from './archive'
import { checkWidth, type Format, isBlank, SHOWN_FIRST, Unreadable } from './format'

/** How many rows are kept to find the titles in. */
const PEEK = 60

/**
 * Workbooks (ISO/IEC 29500, SpreadsheetML): one sheet, its rows as they look. Numbers by their format, dates as ISO 8601,
 * formulas by their last result. Blank rows are passed over.
 */
export const xlsx: Format = {
  async look(path, asked) {
    await entriesOf(path)
    const sheets = await sheetsOf(path)
    const visible = sheets.filter((sheet) => !sheet.hidden)
    const names = (visible.length > 0 ? visible : sheets).map((sheet) => sheet.name)
    if (asked.sheet !== undefined && !names.includes(asked.sheet)) throw new Unreadable(`There is no sheet “${asked.sheet}” in the workbook.`)
    for (const sheet of asked.sheet === undefined ? names : [asked.sheet]) {
      const shape = await shapeOf(path, { format: 'xlsx', sheet, headerRow: asked.headerRow ?? -1 })
      if (shape) return { ...shape, choices: { sheets: names } }
    }
    throw new Unreadable(asked.sheet === undefined ? 'No sheet of the workbook holds a row. Nothing was stored.' : `The sheet “${asked.sheet}” holds no rows.`)
  },

  rows: (path, reading) => below(path, reading),
}

async function shapeOf(path: string, reading: Reading) {
  const top: string[][] = []
  let [rows, widest] = [0, 0]
  for await (const row of sheetRows(path, reading.sheet as string)) {
    if (top.length < PEEK) top.push(row)
    widest = Math.max(widest, row.length)
    checkWidth(widest)
    rows++
  }
  if (rows === 0) return null
  const headerRow = reading.headerRow >= 0 ? reading.headerRow : headerRowOf(top)
  if (rows <= headerRow) throw new Unreadable('The sheet has titles and no rows. Nothing was stored.')
  return { reading: { ...reading, headerRow }, header: titles(headerRow > 0 ? (top[headerRow - 1] ?? []) : undefined, widest), first: top.slice(headerRow, headerRow + SHOWN_FIRST), rows: rows - headerRow }
}

async function* below(path: string, { sheet, headerRow }: Reading): AsyncGenerator<string[]> {
  let n = 0
  for await (const row of sheetRows(path, sheet as string)) if (++n > headerRow) yield row
}

/** The rows of a sheet that hold anything, as they look. */
async function* sheetRows(path: string, sheet: string): AsyncGenerator<string[]> {
  const part = (await sheetsOf(path)).find(({ name }) => name === sheet)?.number
  const book = new ExcelJS.stream.xlsx.WorkbookReader(path, { worksheets: 'emit', sharedStrings: 'cache', styles: 'cache', hyperlinks: 'ignore', entries: 'ignore' })
  try {
    for await (const worksheet of book) {
      if (Number((worksheet as unknown as { id: number | string }).id) !== part) continue
      for await (const row of worksheet) {
        const cells: string[] = []
        row.eachCell({ includeEmpty: false }, (cell, column) => {
          while (cells.length < column - 1) cells.push('')
          cells[column - 1] = shown(cell.value, cell.numFmt)
        })
        if (!isBlank(cells)) yield cells
      }
      return
    }
  } catch (error) {
    if (error instanceof Unreadable) throw error
    throw new Unreadable(`The workbook cannot be read (${(error as Error).message}). Save it anew, or as CSV, from the program it comes from. Nothing was stored.`)
  }
}

function shown(value: ExcelJS.CellValue, pattern: string | undefined): string {
  if (value === null || value === undefined) return ''
  if (typeof value === 'string') return value
  if (typeof value === 'boolean') return value ? 'TRUE' : 'FALSE'
  if (value instanceof Date) return day(value)
  if (typeof value === 'number') return pattern && pattern !== 'General' && !isDateFormat(pattern) ? asShown(pattern, value).trim() : String(value)
  if ('richText' in value) return value.richText.map(({ text }) => text).join('')
  if ('error' in value) return value.error
  if ('text' in value) return shown(value.text as ExcelJS.CellValue, pattern)
  return 'result' in value ? shown(value.result as ExcelJS.CellValue, pattern) : ''
}

/** A date as ISO 8601: its order of day and month cannot be mistaken. With the time where there is one. */
function day(value: Date): string {
  const [date, time] = value.toISOString().split('T')
  return time.startsWith('00:00:00') ? date : `${date} ${time.slice(0, 5)}`
}

interface Sheet {
  name: string
  hidden: boolean
  /** The number in the name of its part, sheet3.xml. */
  number: number
}

/** The sheets of a workbook in their order, by its own table of contents. */
async function sheetsOf(path: string): Promise<Sheet[]> {
  const [book, relations] = [await textOf(path, 'xl/workbook.xml'), await textOf(path, 'xl/_rels/workbook.xml.rels')]
  if (book === null || relations === null) throw new Unreadable('The workbook has no table of contents, so its sheets cannot be found. Nothing was stored.')
  const parts = new Map(elements(relations, 'Relationship').map(({ Id, Target }) => [Id, Number(/(\d+)\.xml$/.exec(Target ?? '')?.[1])]))
  return elements(book, 'sheet').map((sheet) => ({ name: sheet.name, hidden: (sheet.state ?? 'visible') !== 'visible', number: parts.get(sheet['r:id']) ?? Number.NaN }))
}

/** The attributes of every element of a name, however its namespace is called. */
function elements(xml: string, name: string): Record<string, string>[] {
  const found: Record<string, string>[] = []
  const parser = new SaxesParser()
  parser.on('opentag', (tag) => {
    if (tag.name.replace(/^.*:/, '') === name) found.push(tag.attributes as Record<string, string>)
  })
  try {
    parser.write(xml).close()
  } catch (error) {
    throw new Unreadable(`The workbook’s table of contents is broken (${(error as Error).message}). Nothing was stored.`)
  }
  return found
}

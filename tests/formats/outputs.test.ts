import { parse } from 'csv-parse/sync'
import fc from 'fast-check'
import ICAL from 'ical.js'
import readWorkbook from 'read-excel-file/node'
import { describe, expect, test } from 'vitest'
import { FILE_FORMATS, type FileFormat, laidOut, layoutTrouble } from '@/core/rounds/file-layout'
import { safeCell, unsafeCell } from '@/core/views/csv-cell'
import { OUTPUTS } from '@/formats/outputs'

const HEADING = ['Record number', 'Name', 'Given name', 'Family name', 'Role', 'Organisation', 'Phone', 'Notes']
const ROWS = [
  ['7', 'Ada Brook', 'Ada', 'Brook', 'Head, estates', 'Mill & Sons; Ltd', '+441214960374', 'likes "tea"\nand rain'],
  ['0012', 'Łucja Żak', 'Łucja', 'Żak', '', '=1+1', '0121 496 0374', ''],
  ['13', 'The Manager', '', '', '', '<Café> 北京', '', ' spaced '],
]
const AT = new Date('2026-06-15T09:00:00Z')
const table = { title: 'Round 1: a/b [c]', of: HEADING, heading: HEADING.map((own) => `My ${own}`), rows: ROWS, at: AT }
const written = async (format: FileFormat) => OUTPUTS[format](table)

describe('each format is read back by another library', () => {
  test('a workbook, cell by cell, every one a text', async () => {
    const bytes = await written('xlsx')
    const sheets = await readWorkbook(bytes)
    expect(sheets.map(({ sheet }) => sheet)).toEqual(['Round 1  a b  c'])
    const text = (value: unknown) => (value === null ? '' : value)
    // The reader takes spaces around a cell away.
    expect(sheets[0].data.map((row) => row.map(text))).toEqual([table.heading, ...ROWS.map((row) => row.map((own) => own.trim()))])
  })
  test('CSV', async () => {
    expect(parse(await written('csv'))).toEqual([table.heading, ...ROWS.map((row) => row.map(safeCell))])
  })
  test('JSON Lines, what is empty as null', async () => {
    const lines = (await written('jsonl'))
      .toString()
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line))
    expect(lines).toEqual(ROWS.map((row) => Object.fromEntries(row.map((own, i) => [`My ${HEADING[i]}`, own || null]))))
  })
  test('vCards, with what they have no place for in the note (RFC 6350)', async () => {
    const text = (await written('vcard')).toString()
    // RFC 6350, 3.2: no line is longer than 75 octets.
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
    const cards = (ICAL.parse(text) as [string, [string, object, string, ...unknown[]][]][]).map(([, properties]) => properties)
    const of = (i: number, name: string) => cards[i].find(([own]) => own === name)?.slice(3)
    expect(cards).toHaveLength(3)
    expect(of(0, 'version')).toEqual(['4.0'])
    expect(of(0, 'fn')).toEqual(['Ada Brook'])
    expect(of(0, 'n')).toEqual([['Brook', 'Ada', '', '', '']])
    expect(of(0, 'title')).toEqual(['Head, estates'])
    expect(of(0, 'org')?.flat()).toEqual(['Mill & Sons; Ltd'])
    expect(of(0, 'tel')).toEqual(['+441214960374'])
    expect(of(0, 'note')).toEqual(['likes "tea"\nand rain\nMy Record number: 7'])
    expect(of(1, 'fn')).toEqual(['Łucja Żak'])
    expect(of(2, 'tel')).toBeUndefined()
    expect(of(2, 'n')).toBeUndefined()
  })
  test.each(Object.keys(FILE_FORMATS) as FileFormat[])(
    '%s: the same table gives the same bytes, and one of nobody is a file',
    async (format) => {
      const [first, second] = [await written(format), await written(format)]
      expect(second.equals(first)).toBe(true)
      expect((await OUTPUTS[format]({ ...table, rows: [] })).length).toBeGreaterThanOrEqual(0)
    },
  )
  test('letters that no XML can hold are left out of a workbook', async () => {
    const bytes = await OUTPUTS.xlsx({ ...table, rows: [['1', 'a\u0001b\uFFFFc', '', '', '', '', '', '']] })
    expect((await readWorkbook(bytes))[0].data[1][1]).toBe('abc')
  })
})

describe('a layout', () => {
  const layout = (...columns: [string, string][]) => ({
    format: 'csv' as const,
    columns: columns.map(([of, heading]) => ({ of, heading })),
  })
  test('takes columns in its order, under its headings', () => {
    expect(laidOut(layout(['Phone', 'Tel'], ['Name', 'Who']), HEADING, ROWS)).toEqual(ROWS.map((row) => [row[6], row[1]]))
  })
  test.each([
    [layout(), 'Choose at least one column.'],
    [layout(['Name', ' ']), 'Every column needs a heading.'],
    [layout(['Name', 'A'], ['Role', 'A ']), 'Two columns have the heading “A”.'],
    [layout(['Fax', 'Fax']), 'The file has no column “Fax”.'],
    [layout(['Name', 'Role'], ['Role', 'Name']), null],
  ])('%j: %s', (own, trouble) => expect(layoutTrouble(own, HEADING)).toBe(trouble))
})

test('what a cell of a CSV file was before it was made safe comes back, but for apostrophes of its own', () => {
  fc.assert(
    fc.property(fc.string({ unit: fc.constantFrom('=', '+', '-', '@', '\t', ';', ' ', 'a', '1', '|', '\n', '"', '＝') }), (cell) => {
      expect(unsafeCell(safeCell(cell))).toBe(cell)
    }),
  )
  fc.assert(
    fc.property(fc.string(), (cell) => {
      expect(safeCell(unsafeCell(safeCell(cell)))).toBe(safeCell(cell))
    }),
  )
})

import { createReadStream } from 'node:fs'
import { dateFromSerial, format as asShown, getFormatFromId, isDateFormat } from 'numfmt'
import { SaxesParser } from 'saxes'
import { Unreadable } from './format'

/** What the cells of a sheet refer to. */
export interface Book {
  /** Texts that several cells share, by number. */
  shared: Texts
  /** Number formats by the style of a cell. */
  patterns: string[]
  /** Whether dates count from 1 January 1904 and not from 1900 (ISO/IEC 29500-1, 18.17.4.1). */
  from1904: boolean
}

/**
 * Very many texts, kept as bytes side by side. As strings they would each hold on to the piece of the file they were cut from,
 * which came to many times their size.
 */
export class Texts {
  private readonly blocks: Buffer[] = []
  private readonly ends: number[] = []
  private block = Buffer.alloc(0)
  private used = 0

  get length(): number {
    return this.ends.length
  }

  push(text: string): void {
    const size = Buffer.byteLength(text)
    if (this.blocks.length === 0 || this.used + size > this.block.length) {
      this.block = Buffer.allocUnsafe(Math.max(BLOCK, size))
      this.blocks.push(this.block)
      this.used = 0
    }
    this.block.write(text, this.used)
    this.used += size
    this.ends.push((this.blocks.length - 1) * STEP + this.used)
  }

  at(number: number): string | undefined {
    const end = this.ends[number]
    if (end === undefined) return undefined
    const block = Math.floor(end / STEP)
    const before = this.ends[number - 1]
    const from = before !== undefined && Math.floor(before / STEP) === block ? before - block * STEP : 0
    return this.blocks[block].toString('utf8', from, end - block * STEP)
  }
}

const BLOCK = 1024 * 1024
/** Numbers a place in a block by the block's: above any size of one, and exact up to 2 ** 53. */
const STEP = 2 ** 31

/** Elements of an XML file as they begin, with their text as they end. Names are without their namespace's prefix. */
export type Element = { begins: string; attributes: Record<string, string> } | { ends: string; text: string }

/** Reads XML as it comes, so that memory does not grow with it. Throws Unreadable where it is broken. */
export async function* elementsOf(path: string): AsyncGenerator<Element[]> {
  let block: Element[] = []
  let text = ''
  const local = (name: string) => name.slice(name.indexOf(':') + 1)
  const parser = new SaxesParser()
  parser.on('opentag', ({ name, attributes }) => {
    text = ''
    block.push({ begins: local(name), attributes: attributes as Record<string, string> })
  })
  parser.on('text', (more) => {
    text += more
  })
  parser.on('cdata', (more) => {
    text += more
  })
  parser.on('closetag', ({ name }) => {
    block.push({ ends: local(name), text })
    text = ''
  })
  parser.on('error', (error) => {
    throw new Unreadable(
      `The workbook cannot be read (${error.message}). Save it anew, or as CSV, from the program it comes from. Nothing was stored.`,
    )
  })
  for await (const chunk of createReadStream(path, { encoding: 'utf8' })) {
    parser.write(chunk as string)
    if (block.length > 0) yield block
    block = []
  }
  parser.close()
  if (block.length > 0) yield block
}

/** The rows of a sheet that hold anything, each cell as it looks (ISO/IEC 29500-1, 18.3.1). */
export async function* cellsOf(path: string, book: Book): AsyncGenerator<string[]> {
  let row: string[] = []
  let cell = { column: 0, type: 'n', style: 0, value: '' }
  let spoken = false
  for await (const block of elementsOf(path)) {
    for (const element of block) {
      if ('begins' in element) {
        const { begins, attributes } = element
        if (begins === 'row') row = []
        else if (begins === 'c')
          cell = {
            column: attributes.r ? columnOf(attributes.r) : row.length,
            type: attributes.t ?? 'n',
            style: Number(attributes.s ?? 0),
            value: '',
          }
        else if (begins === 'rPh') spoken = true
      } else if (element.ends === 'v') cell.value = element.text
      // Text within a cell, in runs; how it is pronounced is not part of it.
      else if (element.ends === 't' && cell.type === 'inlineStr' && !spoken) cell.value += element.text
      else if (element.ends === 'rPh') spoken = false
      else if (element.ends === 'c') {
        while (row.length < cell.column) row.push('')
        row[cell.column] = shown(cell, book)
      } else if (element.ends === 'row' && row.some((text) => text.trim() !== '')) yield row
    }
  }
}

/** The number of a column, from 0, by a cell's reference: B7 is 1. Throws Unreadable beyond the last, XFD. */
function columnOf(reference: string): number {
  const letters = /^[A-Z]{1,3}/.exec(reference)?.[0] ?? 'A'
  const column = [...letters].reduce((n, letter) => n * 26 + letter.charCodeAt(0) - 64, 0) - 1
  if (column >= 16_384) throw new Unreadable(`The workbook names a cell ${reference} that no sheet has. Nothing was stored.`)
  return column
}

function shown({ type, style, value }: { type: string; style: number; value: string }, { shared, patterns, from1904 }: Book): string {
  if (value === '') return ''
  if (type === 's') return shared.at(Number(value)) ?? ''
  if (type === 'b') return value === '1' ? 'TRUE' : 'FALSE'
  if (type === 'd') return value.replace('T', ' ').replace(/ 00:00(:00.*)?$/, '')
  const number = Number(value)
  if (type !== 'n' || Number.isNaN(number)) return value
  const pattern = patterns[style] ?? 'General'
  if (isDateFormat(pattern)) return day(number + (from1904 ? 1462 : 0))
  // General would round a long number to what fits a narrow column; fifteen digits are what a cell holds.
  return pattern === 'General' ? String(Number(number.toPrecision(15))) : asShown(pattern, number).trim()
}

/** A date as ISO 8601, since the order of day and month on the sheet cannot be told; with the time where there is one, and that alone where there is no day. */
function day(serial: number): string {
  const [year, month, date, hour, minute] = dateFromSerial(serial)
  const two = (n: number) => String(n).padStart(2, '0')
  const time = hour || minute ? `${two(hour)}:${two(minute)}` : ''
  return serial < 1 ? time : [`${year}-${two(month)}-${two(date)}`, time].filter(Boolean).join(' ')
}

/** Texts that cells share (18.4). */
export async function sharedTexts(path: string): Promise<Texts> {
  const shared = new Texts()
  let text = ''
  let spoken = false
  for await (const block of elementsOf(path)) {
    for (const element of block) {
      if ('begins' in element) {
        if (element.begins === 'si') text = ''
        else if (element.begins === 'rPh') spoken = true
      } else if (element.ends === 't' && !spoken) text += element.text
      else if (element.ends === 'rPh') spoken = false
      else if (element.ends === 'si') shared.push(text)
    }
  }
  return shared
}

/** The number format of each style of a cell (18.8), by its number. */
export async function patternsOf(path: string): Promise<string[]> {
  const own = new Map<number, string>()
  const patterns: string[] = []
  let inCells = false
  for await (const block of elementsOf(path)) {
    for (const element of block) {
      if ('ends' in element) inCells &&= element.ends !== 'cellXfs'
      else if (element.begins === 'cellXfs') inCells = true
      else if (element.begins === 'numFmt') own.set(Number(element.attributes.numFmtId), element.attributes.formatCode)
      else if (element.begins === 'xf' && inCells) {
        const id = Number(element.attributes.numFmtId ?? 0)
        patterns.push(own.get(id) ?? getFormatFromId(id) ?? 'General')
      }
    }
  }
  return patterns
}

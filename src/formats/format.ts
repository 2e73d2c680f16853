import type { Reading, ReadingChoices } from '@/core/match/reading'
import { countText } from '@/core/text/written'

/** A file cannot be read. The message names what is wrong and where, and what was kept. */
export class Unreadable extends Error {}

/** What was found in a file that was read to its end. */
export interface Shape {
  reading: Reading
  header: string[]
  /** The first rows below the titles. */
  first: string[][]
  /** How many rows there are that hold anything. */
  rows: number
  choices: ReadingChoices
}

/** One kind of file: what is in it, and its rows one at a time, so that memory does not grow with it. */
export interface Format {
  /** Reads the file to its end, as asked where something is asked for. Throws Unreadable. */
  look(path: string, asked: Partial<Reading>): Promise<Shape>
  /** The rows below the titles, each as many cells as it has. */
  rows(path: string, reading: Reading, header: string[]): AsyncIterable<string[]>
}

/** More columns than this are refused. */
export const MOST_COLUMNS = 500
/** A row longer than this, in characters, is none that a person made. */
export const LONGEST_ROW = 1_000_000
/** A cell longer than this is none that a person filled in. */
export const LONGEST_CELL = 100_000
/** How many rows are shown before anything is stored. */
export const SHOWN_FIRST = 20

/**
 * Throws Unreadable where a cell holds what no text can: a zero character, half of a letter (a lone surrogate, Unicode 3.9, D76), or
 * more letters than any cell of a table. `row` counts from 1 below the titles; `title` names a column by its place.
 */
export function checkCells(cells: Iterable<string>, row: number, title: (column: number) => string | undefined): void {
  let column = 0
  for (const cell of cells) {
    column++
    const wrong =
      cell.length > LONGEST_CELL
        ? `a cell of ${countText(cell.length)} characters; at most ${countText(LONGEST_CELL)} are taken`
        : cell.includes('\0')
          ? 'a zero character'
          : HALF.test(cell)
            ? 'half of a letter (a lone surrogate)'
            : null
    if (wrong === null) continue
    const named = title(column - 1)
    throw new Unreadable(
      `Row ${countText(row)}, column ${column}${named ? ` (${named})` : ''}: there is ${wrong}. Mend that row and bring the file in again. ${nothingStored}`,
    )
  }
}

const HALF = /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/

/** Whether every cell of a row is empty. */
export const isBlank = (row: string[]): boolean => row.every((cell) => cell.trim() === '')

export const nothingStored = 'Nothing was stored, and the file is as you have it.'

/** Refuses a file with more columns than are taken. */
export function checkWidth(columns: number): void {
  if (columns > MOST_COLUMNS)
    throw new Unreadable(`The file has ${countText(columns)} columns; at most ${MOST_COLUMNS} are taken. ${nothingStored}`)
}

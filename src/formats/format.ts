import type { Reading, ReadingChoices } from '@/core/match/reading'

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
/** How many rows are shown before anything is stored. */
export const SHOWN_FIRST = 20

export const isBlank = (row: string[]): boolean => row.every((cell) => cell.trim() === '')

export const nothingStored = 'Nothing was stored, and the file is as you have it.'

export function checkWidth(columns: number): void {
  if (columns > MOST_COLUMNS) throw new Unreadable(`The file has ${columns.toLocaleString('en-GB')} columns; at most ${MOST_COLUMNS} are taken. ${nothingStored}`)
}

import { type BatchKind, fieldLabel, type Mapping } from '../match/columns'
import { squeeze } from './name'

export type Refusal = { refused: string }

/** Cells longer than this are refused rather than cut. */
const LONGEST_CELL = 4000

/** The cells of a row by the field they hold. */
export function cellsOf(row: string[], mapping: Mapping): Record<string, string> {
  const cells: Record<string, string> = {}
  mapping.forEach((field, i) => {
    if (field !== null) cells[field] = row[i] ?? ''
  })
  return cells
}

/** What no cell may be: too long, or with a character that the file's encoding could not be read by. */
export function badCell(kind: BatchKind, cells: Record<string, string>): Refusal | null {
  for (const [field, cell] of Object.entries(cells)) {
    if (cell.length > LONGEST_CELL)
      return { refused: `${fieldLabel(kind, field)} is ${cell.length} characters long; at most ${LONGEST_CELL} are taken` }
    if (cell.includes('\uFFFD'))
      return { refused: `${fieldLabel(kind, field)} holds a character that could not be read: the file is not all in one encoding` }
  }
  return null
}

/** Numbers of records, or nothing. */
export const RECORD = /^\d{0,15}$/

/** Returns the text of a cell without surrounding or doubled spaces; null where nothing is left. */
export const text = (cell: string | undefined) => squeeze(cell ?? '') || null

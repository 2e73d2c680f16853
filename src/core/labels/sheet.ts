/** Sheets of labels by their measures, in millimetres. */
export interface LabelSheet {
  page: { width: number; height: number }
  columns: number
  rows: number
  label: { width: number; height: number }
  /** From the left edge of one label to that of the next, and from the top edge to the next. */
  pitch: { across: number; down: number }
  margin: { left: number; top: number }
}

const INCH = 25.4
const LETTER = { width: 8.5 * INCH, height: 11 * INCH }
const A4 = { width: 210, height: 297 }

/** Sheets that are common, by their dimensions alone (../shared/STACK.md). */
export const SHEETS = {
  'a4-3x7': {
    title: 'A4, 3 × 7, 63.5 × 38.1 mm',
    sheet: {
      page: A4,
      columns: 3,
      rows: 7,
      label: { width: 63.5, height: 38.1 },
      pitch: { across: 66.04, down: 38.1 },
      margin: { left: (A4.width - 2 * 66.04 - 63.5) / 2, top: (A4.height - 7 * 38.1) / 2 },
    },
  },
  'a4-3x8': {
    title: 'A4, 3 × 8, 70 × 37 mm',
    sheet: {
      page: A4,
      columns: 3,
      rows: 8,
      label: { width: 70, height: 37 },
      pitch: { across: 70, down: 37 },
      margin: { left: 0, top: (A4.height - 8 * 37) / 2 },
    },
  },
  'letter-3x10': {
    title: 'US Letter, 3 × 10, 2 5/8 × 1 in',
    sheet: {
      page: LETTER,
      columns: 3,
      rows: 10,
      label: { width: 2.625 * INCH, height: INCH },
      pitch: { across: 2.75 * INCH, down: INCH },
      margin: { left: (3 / 16) * INCH, top: INCH / 2 },
    },
  },
} as const satisfies Record<string, { title: string; sheet: LabelSheet }>
export type SheetKey = keyof typeof SHEETS

/** Measures are told apart to a hundredth of a millimetre, finer than any printer feeds. */
const SLACK = 0.01

/** What is wrong with a sheet, in a sentence; null where nothing is. */
export function sheetTrouble({ page, columns, rows, label, pitch, margin }: LabelSheet): string | null {
  const all = [page.width, page.height, columns, rows, label.width, label.height, pitch.across, pitch.down, margin.left, margin.top]
  if (!all.every(Number.isFinite)) return 'Give every measure of the sheet as a number of millimetres.'
  if (!Number.isInteger(columns) || !Number.isInteger(rows) || columns < 1 || rows < 1)
    return 'A sheet has one column and one row of labels at least.'
  if (columns * rows > 500) return 'A sheet holds at most 500 labels.'
  if (page.width < 50 || page.height < 50 || page.width > 2000 || page.height > 2000)
    return 'A page is between 50 and 2,000 mm wide and high.'
  if (label.width < 10 || label.height < 8) return 'A label is 10 mm wide and 8 mm high at least.'
  if (margin.left < 0 || margin.top < 0) return 'The labels leave the page at the left or the top.'
  if (columns > 1 && pitch.across < label.width - SLACK) return 'Labels side by side overlap: the step across is less than their width.'
  if (rows > 1 && pitch.down < label.height - SLACK) return 'Labels one under the other overlap: the step down is less than their height.'
  if (margin.left + (columns - 1) * pitch.across + label.width > page.width + SLACK) return 'The last column of labels leaves the page.'
  if (margin.top + (rows - 1) * pitch.down + label.height > page.height + SLACK) return 'The last row of labels leaves the page.'
  return null
}

/**
 * Where a label stands: its page (from 0) and its upper left corner in millimetres. Labels are counted from 0, row by row, from the place
 * `start` of the first sheet on (from 1); `offset` moves all of them, for a printer that feeds askew.
 */
export function labelAt(
  sheet: LabelSheet,
  n: number,
  start = 1,
  offset: { across: number; down: number } = { across: 0, down: 0 },
): { page: number; x: number; y: number } {
  const each = sheet.columns * sheet.rows
  const place = n + start - 1
  const onPage = place % each
  return {
    page: Math.floor(place / each),
    x: sheet.margin.left + (onPage % sheet.columns) * sheet.pitch.across + offset.across,
    y: sheet.margin.top + Math.floor(onPage / sheet.columns) * sheet.pitch.down + offset.down,
  }
}

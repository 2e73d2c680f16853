import { setImmediate as othersTurn } from 'node:timers/promises'
import PDFDocument from 'pdfkit'
import { fitLines, LEADING } from '@/core/labels/fit-lines'
import { labelAt, type LabelSheet } from '@/core/labels/sheet'
import { LabelFonts } from './label-fonts'

let fonts: LabelFonts | undefined

/** What goes on labels, and how. */
export interface LabelJob {
  title: string
  /** The lines of each label. */
  labels: readonly (readonly string[])[]
  sheet: LabelSheet
  /** The place on the first sheet where the first label goes, from 1. */
  start: number
  offset: { across: number; down: number }
  /** One sheet with the outlines of its labels instead, to lay against a sheet of labels. */
  align: boolean
  at: Date
}

/** How many labels have a letter that no font has. */
export function respelledAmong(labels: readonly (readonly string[])[]): number {
  fonts ??= new LabelFonts()
  const own = fonts
  return labels.filter((lines) => lines.some((line) => own.printable(line) !== asIs(line))).length
}

const asIs = (line: string) => line.normalize('NFC').replace(/\s+/g, ' ').trim()

/** Points in a millimetre. */
const MM = 72 / 25.4
/** From the edge of a label to its text, in millimetres. */
const INSET = 3.5
/** So many labels are drawn before others have their turn. */
const PIECE = 100

/**
 * Labels as PDF, the lines of each fitted into it and never cut. The same labels give the same bytes: the date is the one that is given.
 * What the text of a page holds stands where the sheet says, to a tenth of a millimetre.
 */
export async function labelsPdf({ title, labels, sheet, start, offset, align, at }: LabelJob): Promise<{ bytes: Buffer; pages: number }> {
  fonts ??= new LabelFonts()
  const own = fonts
  const size: [number, number] = [sheet.page.width * MM, sheet.page.height * MM]
  const document = new PDFDocument({
    autoFirstPage: false,
    size,
    margin: 0,
    info: { Title: title, Producer: 'Arch Ledger', Creator: 'Arch Ledger', CreationDate: at, ModDate: at },
  })
  const pieces: Buffer[] = []
  const ended = new Promise<void>((resolve, reject) => {
    document.on('data', (piece: Buffer) => pieces.push(piece))
    document.on('end', resolve)
    document.on('error', reject)
  })
  own.paths.forEach((path, i) => {
    document.registerFont(String(i), path)
  })
  let pages = 0
  const page = () => {
    document.addPage({ size, margin: 0 })
    pages++
  }
  if (align) {
    page()
    drawOutlines(document, sheet, offset)
  } else {
    const box = { width: (sheet.label.width - 2 * INSET) * MM, height: (sheet.label.height - INSET) * MM }
    for (let n = 0; n < labels.length; n++) {
      const place = labelAt(sheet, n, start, offset)
      while (pages <= place.page) page()
      const printable = labels[n].map((line) => own.printable(line))
      drawLabel(
        document,
        own,
        printable.filter((line) => line !== ''),
        { ...place, ...sheet.label },
        box,
      )
      if (n % PIECE === PIECE - 1) await othersTurn()
    }
    if (pages === 0) page()
  }
  document.end()
  await ended
  return { bytes: Buffer.concat(pieces), pages }
}

type Drawn = InstanceType<typeof PDFDocument>

function drawLabel(
  document: Drawn,
  fonts: LabelFonts,
  lines: string[],
  place: { x: number; y: number; width: number; height: number },
  box: { width: number; height: number },
): void {
  const fitted = fitLines(lines, box, (text) => fonts.width(text))
  const high = fitted.lines.length * LEADING * fitted.size
  // In the middle of the label's height, as window and label printers expect it.
  let y = place.y * MM + (place.height * MM - high) / 2
  for (const line of fitted.lines) {
    let x = (place.x + INSET) * MM
    for (const { font, text } of fonts.runs(line)) {
      document.font(String(font)).fontSize(fitted.size).text(text, x, y, { lineBreak: false })
      x += fonts.width(text) * fitted.size
    }
    y += LEADING * fitted.size
  }
}

/** The outline of each label with its number, and a cross in the middle of the page. */
function drawOutlines(document: Drawn, sheet: LabelSheet, offset: { across: number; down: number }): void {
  document.lineWidth(0.3)
  for (let n = 0; n < sheet.columns * sheet.rows; n++) {
    const { x, y } = labelAt(sheet, n, 1, offset)
    document.rect(x * MM, y * MM, sheet.label.width * MM, sheet.label.height * MM).stroke()
    document
      .font('0')
      .fontSize(8)
      .text(String(n + 1), (x + 2) * MM, (y + 2) * MM, { lineBreak: false })
  }
  const [across, down] = [(sheet.page.width / 2) * MM, (sheet.page.height / 2) * MM]
  document
    .moveTo(across - 10, down)
    .lineTo(across + 10, down)
    .moveTo(across, down - 10)
    .lineTo(across, down + 10)
    .stroke()
}

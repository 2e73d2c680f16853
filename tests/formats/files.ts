import { createWriteStream } from 'node:fs'
import { mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import yazl from 'yazl'
import { look, rowsOf, type Shape } from '@/formats'
import type { Reading } from '@/core/match/reading'

/** A file of these bytes; its path. */
export async function fileOf(bytes: string | Buffer, name = 'file'): Promise<string> {
  const path = join(await mkdtemp(join(tmpdir(), 'arch-test-')), name)
  await writeFile(path, bytes)
  return path
}

/** A ZIP archive of these files; its path. */
export async function archiveOf(files: Record<string, string | Buffer>): Promise<string> {
  const path = await fileOf('')
  const zip = new yazl.ZipFile()
  for (const [name, content] of Object.entries(files)) zip.addBuffer(Buffer.from(content as string), name)
  zip.end()
  await pipeline(zip.outputStream, createWriteStream(path))
  return path
}

/** What is found in a file, and all of its rows. */
export async function readAll(path: string, asked: Partial<Reading> = {}): Promise<Shape & { all: string[][] }> {
  const shape = await look(path, asked)
  const all: string[][] = []
  for await (const row of rowsOf(path, shape.reading, shape.header)) all.push(row)
  return { ...shape, all }
}

/** A workbook of sheets written by hand after ISO/IEC 29500-1: each a list of the XML of its rows. */
export function workbook(
  sheets: { name: string; rows: string; after?: string; state?: string }[],
  styles = '',
  shared = '',
): Promise<string> {
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main'
  const relations = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
  const xml = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>'
  return archiveOf({
    '[Content_Types].xml': `${xml}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/></Types>`,
    '_rels/.rels': `${xml}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="${relations}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/workbook.xml': `${xml}<workbook xmlns="${main}" xmlns:r="${relations}"><sheets>${sheets.map(({ name, state }, i) => `<sheet name="${name}" sheetId="${i + 7}" ${state ? `state="${state}" ` : ''}r:id="s${i + 1}"/>`).join('')}</sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `${xml}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${sheets.map((_, i) => `<Relationship Id="s${i + 1}" Type="${relations}/worksheet" Target="worksheets/sheet${i + 1}.xml"/>`).join('')}<Relationship Id="st" Type="${relations}/styles" Target="/xl/styles.xml"/><Relationship Id="sh" Type="${relations}/sharedStrings" Target="sharedStrings.xml"/></Relationships>`,
    'xl/sharedStrings.xml': `${xml}<sst xmlns="${main}">${shared}</sst>`,
    'xl/styles.xml': `${xml}<styleSheet xmlns="${main}">${styles}</styleSheet>`,
    ...Object.fromEntries(
      sheets.map(({ rows, after = '' }, i) => [
        `xl/worksheets/sheet${i + 1}.xml`,
        `${xml}<worksheet xmlns="${main}"><sheetData>${rows}</sheetData>${after}</worksheet>`,
      ]),
    ),
  })
}

/** The XML of a row of a sheet from plain texts; a cell that begins with < stands as it is. */
export const sheetRow = (number: number, cells: string[]): string =>
  `<row r="${number}">${cells.map((cell, i) => (cell.startsWith('<') ? cell : cell === '' ? '' : `<c r="${'ABCDEFGHIJ'[i]}${number}" t="inlineStr"><is><t>${cell}</t></is></c>`)).join('')}</row>`

import { unzipSync, zipSync } from 'fflate'
import writeWorkbook from 'write-excel-file/node'
import type { Output } from './output'

/** Letters that no XML can hold (XML 1.0, section 2.2). */
// biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is looked for
const NO_XML = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g

/** A workbook of one sheet (ECMA-376). Every cell is a text, so that no number loses its nought and none is taken for a formula. */
export const xlsx: Output = async ({ title, heading, rows, at }) => {
  const cell = (value: string, bold = false) => ({
    type: String,
    value: value.replace(NO_XML, ''),
    ...(bold ? { fontWeight: 'bold' as const } : {}),
  })
  const written = await writeWorkbook(
    [heading.map((own) => cell(own, true)), ...rows.map((row) => row.map((value) => (value === '' ? null : cell(value))))],
    // Names of sheets have at most 31 letters, and not these.
    {
      sheet:
        title
          .replace(/[[\]:*?/\\']/g, ' ')
          .slice(0, 31)
          .trim() || 'People',
      stickyRowsCount: 1,
    },
  ).toBuffer()
  return Buffer.from(zipSync(unzipSync(new Uint8Array(written)), { mtime: at }))
}

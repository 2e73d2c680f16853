import { createHash } from 'node:crypto'
import { parse } from 'csv-parse/sync'
import { FILE_FORMATS, type FileLayout, laidOut, layoutTrouble } from '@/core/rounds/file-layout'
import { unsafeCell } from '@/core/views/csv-cell'
import { OUTPUTS } from '@/formats/outputs'
import { Refused } from '@/usecases/team/actor'

/** A released file as somebody wants it: other columns, other headings, another format. The same file and layout give the same bytes. */
export async function layOutFile(
  file: { name: string; bytes: Buffer },
  layout: FileLayout,
  round: { called: string; released_at: Date; list: string },
): Promise<{ name: string; bytes: Buffer; sha256: string }> {
  const [heading, ...rows] = parse(file.bytes) as string[][]
  const trouble = layoutTrouble(layout, heading)
  if (trouble) throw new Refused(`${trouble} Nothing was downloaded.`)
  const bytes = await OUTPUTS[layout.format]({
    title: `Round ${round.called} ${round.list}`,
    of: layout.columns.map(({ of }) => of),
    heading: layout.columns.map((column) => column.heading),
    rows: laidOut(
      layout,
      heading,
      rows.map((row) => row.map(unsafeCell)),
    ),
    at: round.released_at,
  })
  return {
    name: file.name.replace(/csv$/, FILE_FORMATS[layout.format].ending),
    bytes,
    sha256: createHash('sha256').update(bytes).digest('hex'),
  }
}

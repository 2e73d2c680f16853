import { cleanRow } from '@/core/clean/rows'
import { guessColumns, guessMapping, mappingLacks } from '@/core/match/columns'
import { cellsToClean } from '@/core/match/file-locale'
import type { HowMapped } from '@/core/match/how-mapped'
import { shaped, shapedHeader } from '@/core/match/shaping'
import type { BatchPreview } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import { lookOutside } from '@/formats/outside'
import { settings } from '@/runtime/settings'
import type { Actor } from '@/usecases/team/actor'
import { batchFor } from './batch-for'
import { intakeFields } from '@/usecases/directory/custom-fields'
import { refusing } from './receive-file'
import { withFileOf } from '@/db/intake/batch-file'
import { checked, checkedShaping } from './map-batch'

/** A batch that waits for its mapping, with the first rows as they came and as they would be stored. */
export async function previewBatch(actor: Actor, id: number, asked: Partial<HowMapped> = {}): Promise<BatchPreview> {
  const batch = await batchFor(actor, id)
  const first = batch.first_rows ?? (await withFileOf(id, (path) => refusing(() => lookOutside(path, batch.reading)))).first
  const customs = await intakeFields(db(), asked.kind ?? batch.kind)
  if (asked.shaping) batch.shaping = checkedShaping(asked.shaping, batch.header.length)
  const header = shapedHeader(batch.header, batch.shaping)
  const rows = first.map((row) => shaped(row, batch.header.length, batch.shaping))
  if (asked.kind && asked.kind !== batch.kind) {
    batch.kind = asked.kind
    batch.mapping = guessMapping(batch.kind, header, rows, customs)
  }
  if (asked.mapping) batch.mapping = checked(batch.kind, asked.mapping, header.length, customs)
  return {
    batch,
    header,
    customs,
    words: header.map((_, column) =>
      mostUsed(first.map((row) => shaped(row, batch.header.length, { made: batch.shaping.made })[column] ?? '')),
    ),
    guesses: guessColumns(batch.kind, header, rows, customs),
    rows: rows.slice(0, 8).map((row, i) => ({
      raw: first[i],
      shaped: row,
      stored: cleanRow(batch.kind, cellsToClean(batch, first[i], customs), batch.mapping, settings().ARCH_REGION, customs),
    })),
    lacks: mappingLacks(batch.kind, batch.mapping),
  }
}

/** Most different words of a column that are offered to be replaced. */
export const MOST_WORDS = 30

/** What stands in a column, the most used first; nothing where nearly every cell is its own. */
export function mostUsed(cells: string[]): string[] {
  const counts = new Map<string, number>()
  for (const cell of cells) if (cell.trim() !== '') counts.set(cell.trim(), (counts.get(cell.trim()) ?? 0) + 1)
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST_WORDS)
    .map(([word]) => word.slice(0, 200))
}

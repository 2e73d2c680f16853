import { rowsWithOutcome } from '@/db/intake/batch-rows'
import type { Outcome } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { batchFor } from './batch-for'
import { closedCells } from '@/usecases/screening/closed-cells'
import { writeCsv } from '@/formats/write-csv'

/**
 * Refused rows as CSV in the file's own columns, to be put right and brought in again: after them the row's number, the reason, and
 * where there are any, which of its addresses must not be used, and why.
 */
export async function refusedCsv(actor: Actor, id: number, outcome: Outcome = 'refused'): Promise<{ name: string; bytes: Buffer }> {
  const batch = await batchFor(actor, id)
  const rows = await rowsWithOutcome(db(), id, outcome)
  if (rows.length === 0) throw new Refused(`No row of this file is ${outcome}.`, 'not found')
  const width = batch.header.length
  const marks =
    batch.kind === 'people'
      ? await closedCells(
          batch,
          rows.map((r) => r.raw),
        )
      : []
  const closed = marks.some((mark) => mark !== '') ? marks : null
  return {
    name: `${batch.file_name.replace(/\.[^.]*$/, '')}-${outcome.replace(' ', '-')}.csv`,
    bytes: await writeCsv(
      [...batch.header, 'Row', 'Reason', ...(closed ? ['Do not use'] : [])],
      rows.map((r, n) => [
        ...Array.from({ length: width }, (_, i) => r.raw[i] ?? ''),
        String(r.row_no),
        r.reason ?? '',
        ...(closed ? [closed[n]] : []),
      ]),
    ),
  }
}

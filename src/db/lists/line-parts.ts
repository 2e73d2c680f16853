import type { Line } from '@/core/lists/line'
import type { Knex } from '@/db/connection'
import { partsOf } from '@/core/lists/line-parts'

/** Notes that parts of lines stand in a list, so that whoever sees the list may read them. */
export async function holdParts(trx: Knex, list: number, lines: readonly Line[]): Promise<void> {
  const rows = Object.entries(partsOf(lines)).flatMap(([part, ids]) =>
    [...new Set(ids)].map((part_id) => ({ list_id: list, part, part_id })),
  )
  if (rows.length > 0) await trx('line_part').insert(rows).onConflict(['list_id', 'part', 'part_id']).ignore()
}

/**
 * Returns those of these parts (areas, picks, files) that somebody may use in a line: their own, shared ones, or those of a list they may
 * read.
 */
export async function readableRows(
  trx: Knex,
  {
    table,
    asked,
    maker,
    actorId,
    part,
    needs,
  }: { table: string; asked: number[]; maker: string; actorId: string; part: string; needs: string },
) {
  return await trx(table)
    .whereIn('id', asked)
    .where((some) => {
      some
        .where(maker, actorId)
        .orWhereExists(
          trx('line_part as h')
            .join('list as l', 'l.id', 'h.list_id')
            .whereRaw(`h.part_id = ${table}.id`)
            .where('h.part', part)
            .whereNull('l.deleted_at')
            .whereRaw('role_on(l, ?) >= ?::list_role', [actorId, needs]),
        )
      if (part === 'area') some.orWhere({ named: true, shared: true })
    })
    .select('id')
}

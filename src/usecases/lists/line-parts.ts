import type { Line } from '@/core/lists/line'
import { areasNamed, picksIn } from '@/core/lists/named'
import { db, type Knex } from '@/db/connection'
import type { ListRole } from '@/core/lists/roles'
import { type Actor, Refused } from '@/usecases/team/actor'

/** What lines are made of besides criteria, each by a number: sets of picked records, and areas that were drawn for a line alone. */
const PARTS = { set: { table: 'pick_set', maker: 'made_by' }, area: { table: 'area', maker: 'owner_id' } } as const
type Part = keyof typeof PARTS

const partsOf = (lines: readonly Line[]): Record<Part, number[]> => ({
  set: picksIn(lines).map((line) => line.set.id),
  area: areasNamed(lines).map(({ id }) => id),
})

/**
 * Of some parts, those this person may read: what they made themselves, and what stands in the lines of a list they may see, or more
 * where more is needed. A number alone opens nothing.
 */
export async function readableParts(
  actor: Actor,
  part: Part,
  ids: readonly number[],
  trx: Knex = db(),
  needs: ListRole = 'see',
): Promise<Set<number>> {
  const { table, maker } = PARTS[part]
  const asked = [...new Set(ids.filter(Number.isSafeInteger))]
  if (asked.length === 0) return new Set()
  const rows = await trx(table)
    .whereIn('id', asked)
    .where((some) => {
      some
        .where(maker, actor.id)
        .orWhereExists(
          trx('line_part as h')
            .join('list as l', 'l.id', 'h.list_id')
            .whereRaw(`h.part_id = ${table}.id`)
            .where('h.part', part)
            .whereNull('l.deleted_at')
            .whereRaw('role_on(l, ?) >= ?::list_role', [actor.id, needs]),
        )
      if (part === 'area') some.orWhere({ named: true, shared: true })
    })
    .select('id')
  return new Set(rows.map((row) => row.id))
}

/** Refuses lines that hold a set of picked records this person may not read. */
export async function checkSets(actor: Actor, lines: readonly Line[], trx: Knex = db(), needs: ListRole = 'see'): Promise<void> {
  const { set } = partsOf(lines)
  const readable = await readableParts(actor, 'set', set, trx, needs)
  if (set.some((id) => !readable.has(id)))
    throw new Refused(
      needs === 'see'
        ? 'A line picks records of a list that does not exist, or is private to somebody else.'
        : 'A line picks records of a list that you may look at, not use.',
      needs === 'see' ? 'not found' : 'not allowed',
    )
}

/** Notes that parts of lines stand in a list, so that whoever sees the list may read them. */
export async function holdParts(trx: Knex, list: number, lines: readonly Line[]): Promise<void> {
  const rows = Object.entries(partsOf(lines)).flatMap(([part, ids]) =>
    [...new Set(ids)].map((part_id) => ({ list_id: list, part, part_id })),
  )
  if (rows.length > 0) await trx('line_part').insert(rows).onConflict(['list_id', 'part', 'part_id']).ignore()
}

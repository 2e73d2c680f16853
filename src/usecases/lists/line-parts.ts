import type { Line } from '@/core/lists/line'
import { db, type Knex } from '@/db/connection'
import type { ListRole } from '@/core/records/list-roles'
import { type Actor, Refused } from '@/usecases/team/actor'
import { type Part, PARTS, partsOf } from '@/core/lists/line-parts'
import { readableRows } from '@/db/lists/line-parts'

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
  const rows = await readableRows(trx, { table, asked, maker, actorId: actor.id, part, needs })
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

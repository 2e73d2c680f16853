import type { Knex } from '@/db/connection'
import { copyRows } from '@/db/copy-rows'

/** Who was on a released round or a supplement of it, and who of them was clear; seats of merged records belong to the one that stays. */
export async function roundMembers(
  trx: Knex,
  rounds: number[] | 'all',
  visit: (list: number, number: number, people: number[], clear: number[]) => void,
): Promise<void> {
  const found = await trx('round')
    .whereNotNull('released_at')
    // A round with its supplements, whichever of them is asked for.
    .modify(
      (q) =>
        rounds !== 'all' && q.whereIn(['list_id', 'number'], (own) => own.from('round').whereIn('id', rounds).select('list_id', 'number')),
    )
    .groupBy('list_id', 'number')
    .orderByRaw('min(id)')
    .select('list_id', 'number', trx.raw('array_agg(id) as parts'))
  for (const { list_id, number, parts } of found) {
    const people: number[] = []
    const clear: number[] = []
    await copyRows(
      trx,
      `select coalesce(p.merged_into, p.id), m.held_by is null from round_member m join person p on p.id = m.person_id where m.round_id in (${parts.map(Number).join(', ')})`,
      (row) => {
        const person = row.int8()
        people.push(person)
        if (row.bool()) clear.push(person)
      },
    )
    visit(list_id, number, people, clear)
  }
}

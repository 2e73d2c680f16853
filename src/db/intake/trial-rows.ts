import type { Knex } from '@/db/connection'

/** How many of the people that are new have an address or number that is suppressed. */
export async function heldBack(trx: Knex, batch: number, at: Date): Promise<{ register: number; suppressed: number }> {
  const { rows } = await trx.raw(
    `select count(distinct p.id) filter (where s.reason = 'register')::int as register, count(distinct p.id) filter (where s.reason <> 'register')::int as suppressed
     from person p join suppression_touch t on t.person_id = p.id join suppression_standing s on s.id = t.suppression_id
     where p.batch_id = ? and s.since <= ? and (s.until is null or s.until > ?)`,
    [batch, at, at] as never,
  )
  return rows[0]
}

/** How many of some people were released in a round of a list before. */
export async function inRounds(trx: Knex, people: number[]): Promise<number> {
  const { rows } = await trx.raw('select count(distinct person_id)::int as n from round_member where person_id = any(?::bigint[])', [
    people,
  ])
  return rows[0].n
}

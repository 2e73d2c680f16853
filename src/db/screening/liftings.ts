import type { LiftingView } from '@/core/views/round-views'
import type { Knex } from '@/db/connection'

/** One lift at a time, so that nothing is lifted twice or lifted while it is put back. Held to the end of the transaction. */
export async function holdLifts(trx: Knex): Promise<void> {
  await trx.raw(`select pg_advisory_xact_lock(hashtext('lifts'))`)
}

/** Active suppressions by an earlier version of a register, and whose number is not in the version in use any more. */
export async function goneFrom(trx: Knex, name: string): Promise<number[]> {
  const { rows } = await trx.raw(
    `with now_in_use as (select batch_id from register_file where batch_id is not null and name = ? order by version desc, id desc limit 1),
       earlier as (select f.batch_id from register_file f where f.name = ? and f.batch_id <> (select batch_id from now_in_use))
     select distinct s.id from suppression_standing s join suppression_key k on k.suppression_id = s.id join register_key e on e.key = k.key and e.batch_id in (select batch_id from earlier)
     where s.reason = 'register'
       -- Nor on the version in use of another register.
       and not exists (select 1 from suppression_key o join register_key r on r.key = o.key where o.suppression_id = s.id
         and r.batch_id in (select distinct on (f.name) f.batch_id from register_file f where f.batch_id is not null order by f.name, f.version desc, f.id desc))`,
    [name, name],
  )
  return rows.map((row: { id: number }) => row.id)
}

/** How many suppressions stand by the versions of a register. */
export async function standingBy(trx: Knex, name: string): Promise<number> {
  const { rows } = await trx.raw(
    `select count(distinct s.id)::int as n from suppression_standing s join suppression_key k on k.suppression_id = s.id join register_key e on e.key = k.key join register_file f on f.batch_id = e.batch_id
     where s.reason = 'register' and f.name = ?`,
    [name],
  )
  return rows[0].n
}

/** The last few acts of lifting that can still be taken back, the newest first. */
export async function recentLiftings(trx: Knex): Promise<LiftingView[]> {
  const rows = await trx('lifting as g')
    .leftJoin('user as u', 'u.id', 'g.actor_id')
    .whereExists(trx('suppression_lifted as l').whereRaw('l.lifting_id = g.id'))
    .orderBy('g.id', 'desc')
    .limit(5)
    .select('g.id', 'g.at', 'g.word', 'g.lifted', 'u.name as by')
  return rows.map((g) => ({ id: g.id, at: g.at.toISOString(), word: g.word, lifted: g.lifted, by: g.by ?? '' }))
}

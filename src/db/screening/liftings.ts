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

/** The file of a register's version in use: whether it is all in, and how many of its rows could not be read. */
export async function fileInUse(trx: Knex, name: string): Promise<{ through: boolean; refused: number }> {
  const { rows } = await trx.raw(
    `select b.state in ('done', 'undone') as through, (select count(*)::int from batch_row r where r.batch_id = b.id and r.outcome = 'refused') as refused
     from register_file f join batch b on b.id = f.batch_id where f.name = ? order by f.version desc, f.id desc limit 1`,
    [name],
  )
  return rows[0] ?? { through: true, refused: 0 }
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

/** Returns one of these suppressions that is already lifted; undefined where none is. */
export async function liftedAmong(trx: Knex, ids: number[]) {
  return await trx('suppression_lifted').whereRaw('suppression_id = any(?::bigint[])', [ids]).first('suppression_id')
}

/** Inserts a lifting (one reason for one or many suppressions) and returns its id. */
export async function insertLifting(
  trx: Knex,
  {
    at,
    word,
    actorId,
    register,
    version,
    ids,
    standing,
  }: {
    at: Date
    word: string
    actorId: string
    register: string | undefined
    version: string | undefined
    ids: number[]
    standing: number | undefined
  },
) {
  return await trx('lifting').insert(
    { at, word, actor_id: actorId, register: register ?? null, version: version ?? null, lifted: ids.length, standing: standing ?? null },
    'id',
  )
}

/** Lifts suppressions by one lifting. The suppressions themselves stay. */
export async function insertLifts(
  trx: Knex,
  { at, word, actorId, id, ids }: { at: Date; word: string; actorId: string; id: number; ids: number[] },
) {
  return await trx.raw(
    'insert into suppression_lift (suppression_id, at, word, actor_id, lifting_id) select s, ?, ?, ?, ? from unnest(?::bigint[]) s',
    [at, word, actorId, id, ids],
  )
}

/** Returns which people have an entry for these suppressions. */
export async function peopleOfSuppressions(trx: Knex, ids: number[]) {
  return await trx('entry')
    .whereRaw(`suppression_id = any(?::bigint[])`, [ids])
    .where({ kind: 'suppressed' })
    .whereNotNull('person_id')
    .select('suppression_id', 'person_id')
}

/** Returns the newest version of each register, with how it differs from the version before. */
export async function newestRegisters(trx: Knex) {
  const { rows } = await trx.raw<{
    rows: { name: string; version: string; good_for: number; fresh: number | null; gone: number | null }[]
  }>('select distinct on (name) name, version, good_for, fresh, gone from register_file order by name, version desc, id desc')
  return rows
}

/** Returns the newest version of a register. */
export async function registerVersion(trx: Knex, register: string) {
  return await trx('register_file').where({ name: register }).orderBy('version', 'desc').orderBy('id', 'desc').first('version')
}

/** Returns the reason of a lifting. */
export async function liftingWord(trx: Knex, id: number) {
  return await trx('lifting').where({ id }).first('word')
}

/** Returns the lifts of a lifting that still hold. */
export async function liftsOf(trx: Knex, id: number) {
  return await trx('suppression_lifted').where({ lifting_id: id }).select('id', 'suppression_id')
}

/** Takes lifts back, so that their suppressions hold again. */
export async function insertLiftsBack(trx: Knex, lifts: number[], at: Date, word: string, actorId: string) {
  return await trx.raw('insert into suppression_lift_back (lift_id, at, word, actor_id) select l, ?, ?, ? from unnest(?::bigint[]) l', [
    at,
    word,
    actorId,
    lifts,
  ])
}

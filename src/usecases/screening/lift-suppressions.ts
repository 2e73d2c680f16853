import { goodThrough } from '@/core/screening/register'
import type { LiftingView, RegisterView } from '@/core/views/round-views'
import { db, type Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { numberSetting } from '@/usecases/team/number-settings'
import { peopleTouched } from './suppress-people'
import { countText } from '@/core/text/written'

/** One lift at a time, so that nothing is lifted twice or lifted while it is put back. Held to the end of the transaction. */
export async function holdLifts(trx: Knex): Promise<void> {
  await trx.raw(`select pg_advisory_xact_lock(hashtext('lifts'))`)
}

/**
 * Lifts some suppressions as one act, each by an entry for everybody it touches. Throws Refused where one is lifted already.
 * The caller holds the lifts and has looked at what it lifts since.
 */
export async function liftMany(
  trx: Knex,
  actor: Actor,
  ids: number[],
  { word, register, version, standing }: { word: string; register?: string; version?: string; standing?: number },
): Promise<number> {
  const at = now()
  const lifted = await trx('suppression_lifted').whereRaw('suppression_id = any(?::bigint[])', [ids]).first('suppression_id')
  if (lifted) throw new Refused('This suppression is lifted already.')
  const [{ id }] = await trx('lifting').insert(
    { at, word, actor_id: actor.id, register: register ?? null, version: version ?? null, lifted: ids.length, standing: standing ?? null },
    'id',
  )
  await trx.raw(
    'insert into suppression_lift (suppression_id, at, word, actor_id, lifting_id) select s, ?, ?, ?, ? from unnest(?::bigint[]) s',
    [at, word, actor.id, id, ids],
  )
  const told = await trx('entry')
    .whereRaw(`suppression_id = any(?::bigint[])`, [ids])
    .where({ kind: 'suppressed' })
    .whereNotNull('person_id')
    .select('suppression_id', 'person_id')
  const touched = await peopleTouched(trx, ids)
  const people = new Map(ids.map((s) => [s, new Set<number>(touched.get(s) ?? [])]))
  for (const { suppression_id, person_id } of told) people.get(suppression_id)?.add(person_id)
  await writeEntries(
    trx,
    [...people].flatMap(([suppression, of]) =>
      [...of].map((person) => ({ person, kind: 'lifted' as const, at, actor: actor.id, suppression, note: word })),
    ),
    at,
  )
  return id
}

/** Active suppressions by an earlier version of a register, and whose number is not in the version in use any more. */
async function goneFrom(trx: Knex, name: string): Promise<number[]> {
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
async function standingBy(trx: Knex, name: string): Promise<number> {
  const { rows } = await trx.raw(
    `select count(distinct s.id)::int as n from suppression_standing s join suppression_key k on k.suppression_id = s.id join register_key e on e.key = k.key join register_file f on f.batch_id = e.batch_id
     where s.reason = 'register' and f.name = ?`,
    [name],
  )
  return rows[0].n
}

/** Each register by its name, with the version in use; the one that runs out first comes first. */
export async function registersInUse(trx: Knex): Promise<RegisterView[]> {
  const { rows } = await trx.raw<{
    rows: { name: string; version: string; good_for: number; fresh: number | null; gone: number | null }[]
  }>('select distinct on (name) name, version, good_for, fresh, gone from register_file order by name, version desc, id desc')
  const share = await numberSetting('lift-share', trx)
  const registers: RegisterView[] = []
  for (const { name, version, good_for, fresh, gone } of rows) {
    const lifts = (await goneFrom(trx, name)).length
    registers.push({
      name,
      version,
      goodThrough: goodThrough(version, good_for),
      since: fresh === null ? null : { fresh, gone: gone as number },
      stillHeld: lifts,
      standing: await standingBy(trx, name),
      share,
    })
  }
  return registers.sort((a, b) => (a.goodThrough < b.goodThrough ? -1 : a.goodThrough > b.goodThrough ? 1 : 0))
}

/**
 * Lifts what stands by an earlier version of a register and is not in the one in use any more, as one act that can be taken back.
 * `expected` is how many the person was shown. More than the share that is set needs a written reason. Gives how many.
 */
export async function liftGone(
  actor: Actor,
  { register, expected, why = '' }: { register: string; expected: number; why?: string },
): Promise<number> {
  mustCoordinate(actor, 'Lifting a suppression')
  return db().transaction(async (trx) => {
    await holdLifts(trx)
    const ids = await goneFrom(trx, register)
    if (ids.length === 0) throw new Refused('Nothing is left to lift: everything that stands is on the version in use.')
    if (ids.length !== expected)
      throw new Refused(
        `${countText(ids.length)} are not on the register any more, and you were shown ${countText(expected)}. Nothing was lifted; look again.`,
      )
    const standing = await standingBy(trx, register)
    const share = await numberSetting('lift-share', trx)
    const reason = why.trim()
    if (ids.length * 100 > standing * share && reason === '')
      throw new Refused(
        `These are ${countText(ids.length)} of the ${countText(standing)} that stand by ${register}, more than ${share} %. A file that is cut short looks just like that. Nothing was lifted. Write why it is right, or bring in the whole file.`,
      )
    const { version } = await trx('register_file')
      .where({ name: register })
      .orderBy('version', 'desc')
      .orderBy('id', 'desc')
      .first('version')
    await liftMany(trx, actor, ids, {
      word: `not on ${register} of ${version} any more${reason ? `: ${reason}` : ''}`,
      register,
      version,
      standing,
    })
    return ids.length
  })
}

/** Takes a lift back: what it lifted stands again, each by an entry, unless it was taken back already. Gives how many. */
export async function takeBackLifting(actor: Actor, id: number): Promise<number> {
  mustCoordinate(actor, 'Taking a lift back')
  return db().transaction(async (trx) => {
    await holdLifts(trx)
    const at = await passGate(trx)
    const lifting = Number.isSafeInteger(id) ? await trx('lifting').where({ id }).first('word') : undefined
    if (!lifting) throw new Refused('There is no such lift.', 'not found')
    const lifts: { id: number; suppression_id: number }[] = await trx('suppression_lifted')
      .where({ lifting_id: id })
      .select('id', 'suppression_id')
    if (lifts.length === 0) throw new Refused('This lift is taken back already.')
    const word = `the lift was taken back (${lifting.word})`
    await trx.raw('insert into suppression_lift_back (lift_id, at, word, actor_id) select l, ?, ?, ? from unnest(?::bigint[]) l', [
      at,
      word,
      actor.id,
      lifts.map((l) => l.id),
    ])
    const touched = await peopleTouched(
      trx,
      lifts.map((l) => l.suppression_id),
    )
    await writeEntries(
      trx,
      lifts.flatMap((l) =>
        (touched.get(l.suppression_id) ?? []).map((person) => ({
          person,
          kind: 'suppressed' as const,
          at,
          actor: actor.id,
          suppression: l.suppression_id,
          note: word,
        })),
      ),
      at,
    )
    return lifts.length
  })
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

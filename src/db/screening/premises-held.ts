import { cleanPostal } from '@/core/clean/postal'
import { type Reason, REASONS } from '@/core/records/suppression'
import type { Knex } from '@/db/connection'
import { placeOf } from '@/db/key'

/** Of some live premises, those to which no letter may go as of an instant: for the sake of their address, the household there or their owner. */
export async function premisesHeld(trx: Knex, ids: readonly number[], at: Date): Promise<number[]> {
  const rows: { id: number }[] = await trx('premises')
    .whereRaw('id = any(?::bigint[])', [[...ids]])
    .where({ state: 'live' })
    .select('id', 'street', 'town', 'postcode')
  const keys = rows.map((row) => placeOf(cleanPostal(row as never)).keys)
  const held = await heldPlaces(trx, keys.flat(), at)
  const owners = await heldOwners(trx, ids, at)
  const places = (own: readonly Buffer[]) => own.some((key) => ['post', 'household'].some((by) => held.has(`${by} ${key.toString('hex')}`)))
  return rows.flatMap(({ id }, i) => (owners.has(id) || places(keys[i]) ? [id] : []))
}

const IN_ORDER = `array_position(array[${REASONS.map((reason) => `'${reason}'`).join(', ')}], s.reason)`

/** Of some keys of postal addresses, why letters to them, or to the households there, are suppressed; the gravest reason. */
export async function heldPlaces(trx: Knex, keys: readonly Buffer[], at: Date): Promise<Map<string, Reason>> {
  if (keys.length === 0) return new Map()
  const { rows } = await trx.raw(
    `select distinct on (k.channel, k.key) k.channel, encode(k.key, 'hex') as key, s.reason from suppression_key k join suppression_standing s on s.id = k.suppression_id
     where k.key = any(?::bytea[]) and k.channel in ('post', 'household') and 'post' = any(s.channels) and s.since <= ? and (s.until is null or s.until > ?)
     order by k.channel, k.key, ${IN_ORDER}`,
    [[...keys], at, at] as never,
  )
  return new Map(rows.map((row: { channel: string; key: string; reason: Reason }) => [`${row.channel} ${row.key}`, row.reason]))
}

/** Of some premises whose owner, a person or an organisation of the directory, is suppressed for post: why. */
export async function heldOwners(trx: Knex, ids: readonly number[], at: Date): Promise<Map<number, Reason>> {
  const { rows } = await trx.raw(
    `select distinct on (q.id) q.id, s.reason from (
       select q.id, t.suppression_id from premises q join person p on p.name_key = q.owner_name_key and p.address_key = q.owner_address_key and p.state = 'live'
         join suppression_touch t on t.person_id = p.id left join address a on a.id = t.address_id
         where q.id = any(?::bigint[]) and (t.address_id is null or a.channel = 'post')
       union all select q.id, s.id from premises q join organisation o on o.name_key = q.owner_organisation_key and o.live
         join suppression s on s.organisation_id = o.id where q.id = any(?::bigint[])
       union all select q.id, k.suppression_id from premises q join organisation o on o.name_key = q.owner_organisation_key and o.live
         join suppression_key k on k.key = o.key and k.channel = 'organisation' where q.id = any(?::bigint[])) q
     join suppression_standing s on s.id = q.suppression_id
     where 'post' = any(s.channels) and s.since <= ? and (s.until is null or s.until > ?) order by q.id, ${IN_ORDER}`,
    [[...ids], [...ids], [...ids], at, at] as never,
  )
  return new Map(rows.map((row: { id: number; reason: Reason }) => [row.id, row.reason]))
}

/**
 * SQL of the suppressions of whoever gets post at some places: rows of `ref` and the suppression's `id`. `own` names the places, as rows of
 * `ref` and `key`. People count through every record that was merged into them; suppressions of their other addresses do not.
 */
export const askedThere = (own: string): string =>
  `select own.ref, t.suppression_id as id from ${own} own
     cross join lateral (select person_id from address where channel = 'post' and key = own.key union select person_id from address where channel = 'post' and post_key = own.key
       union select person_id from address where channel = 'post' and post_key_3 = own.key) there
     join person m on m.id = there.person_id join person p on p.id = coalesce(m.merged_into, m.id) and p.state = 'live'
     cross join lateral (select p.id union all select o.id from person o where o.merged_into = p.id) f
     join suppression_touch t on t.person_id = f.id and t.address_id is null`

/** Of some keys of postal addresses, in hex, those where somebody who gets post there asked us to stop writing: the gravest reason. */
export async function placesAsked(trx: Knex, keys: readonly Buffer[], at: Date): Promise<Map<string, Reason>> {
  if (keys.length === 0) return new Map()
  const { rows } = await trx.raw(
    `with own as materialized (select distinct key as ref, key from unnest(?::bytea[]) as k(key))
     select distinct on (a.ref) encode(a.ref, 'hex') as key, s.reason from (${askedThere('own')}) a join suppression_standing s on s.id = a.id
     where s.reason in ('opt-out', 'complaint') and 'post' = any(s.channels) and s.since <= ? and (s.until is null or s.until > ?)
     order by a.ref, ${IN_ORDER}`,
    [[...keys], at, at] as never,
  )
  return new Map(rows.map((row: { key: string; reason: Reason }) => [row.key, row.reason]))
}

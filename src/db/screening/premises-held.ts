import { cleanPostal, postalKey } from '@/core/clean/postal'
import { type Reason, REASONS } from '@/core/records/suppression'
import type { ScreenedPremises } from '@/core/screening/premises'
import type { Knex } from '@/db/connection'
import { suppressedBy } from '@/db/key'

/** Of some live premises what screening for post asks, as of an instant, with their names. */
export async function premisesToScreen(trx: Knex, ids: readonly number[], at: Date): Promise<(ScreenedPremises & { name: string })[]> {
  const rows: { id: number; name: string; street: string | null; town: string | null; postcode: string | null }[] = await trx('premises')
    .whereRaw('id = any(?::bigint[])', [[...ids]])
    .where({ state: 'live' })
    .orderBy('name_key')
    .orderBy('id')
    .select('id', 'name', 'street', 'town', 'postcode')
  const keys = rows.map((row) => {
    const postal = cleanPostal(row as never)
    return postalKey(postal) === null ? null : suppressedBy({ postal }).map(({ key }) => key)
  })
  const held = await heldPlaces(
    trx,
    keys.flatMap((own) => own ?? []),
    at,
  )
  const owners = await heldOwners(trx, ids, at)
  return rows.map(({ id, name }, i) => {
    const own = keys[i]
    const first = (by: 'post' | 'household') => own?.flatMap((key) => held.get(`${by} ${key.toString('hex')}`) ?? [])[0] ?? null
    return { id, name, postable: own !== null, address: first('post'), household: first('household'), owner: owners.get(id) ?? null }
  })
}

const IN_ORDER = `array_position(array[${REASONS.map((reason) => `'${reason}'`).join(', ')}], s.reason)`

/** Of some keys of postal addresses, why letters to them, or to the households there, are suppressed; the gravest reason. */
async function heldPlaces(trx: Knex, keys: readonly Buffer[], at: Date): Promise<Map<string, Reason>> {
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
async function heldOwners(trx: Knex, ids: readonly number[], at: Date): Promise<Map<number, Reason>> {
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

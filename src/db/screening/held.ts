import { db, type Knex } from '@/db/connection'
import type { Channel } from '@/core/records/channels'
import { REASONS } from '@/core/records/suppression'
import { now } from '@/runtime/clock'

/** Of some keys, those that are suppressed now for one channel, in hex. What is suppressed of a person alone is not looked at. */
export async function heldKeys(keys: Buffer[], channel: Channel): Promise<Set<string>> {
  if (keys.length === 0) return new Set()
  const at = now()
  const { rows } = await db().raw(
    `select distinct encode(k.key, 'hex') as key from suppression_key k join suppression_standing s on s.id = k.suppression_id where k.key = any(?::bytea[]) and s.scope <> 'person' and ? = any(s.channels) and s.since <= ? and (s.until is null or s.until > ?)`,
    [keys, channel, at, at] as never,
  )
  return new Set(rows.map((row: { key: string }) => row.key))
}

/** Which channels of some organisations are suppressed as a whole, by id or by name. */
export async function heldOrganisations(ids: number[]): Promise<Map<number, string[]>> {
  const at = now()
  const { rows } = await db().raw(
    `select o.id, s.channels from organisation o join suppression_standing s on s.organisation_id = o.id or s.id in (select k.suppression_id from suppression_key k where k.key = o.key)
     where o.id = any(?::bigint[]) and s.scope = 'organisation' and s.since <= ? and (s.until is null or s.until > ?)`,
    [ids, at, at] as never,
  )
  const map = new Map<number, string[]>()
  for (const { id, channels } of rows) map.set(id, [...(map.get(id) ?? []), ...channels])
  return map
}

/** Returns the gravest reason for which each key is suppressed at a moment. */
export async function reasonsByKey(trx: Knex, held: Buffer<ArrayBufferLike>[], at: Date) {
  const { rows } = await trx.raw(
    `select distinct on (k.key) encode(k.key, 'hex') as key, s.reason from suppression_key k join suppression_standing s on s.id = k.suppression_id
     where k.key = any(?::bytea[]) and s.since <= ? and (s.until is null or s.until > ?) order by k.key, array_position(array[${REASONS.map((reason) => `'${reason}'`).join(', ')}], s.reason)`,
    [held, at, at] as never,
  )
  return rows
}

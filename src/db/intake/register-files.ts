import type { Knex } from '@/db/connection'
import { insertRows } from '@/db/insert-rows'
import type { Channel } from '@/core/records/channels'

/** Returns which of these keys and people are suppressed at a moment, each as reason, key or person, channels and end, joined by |. */
export async function standingKeys(trx: Knex, keys: Buffer[], people: number[], at: Date): Promise<Set<string>> {
  const { rows } = await trx.raw<{
    rows: { reason: string; key: Buffer | null; person_id: number | null; channels: Channel[]; until: Date | null }[]
  }>(
    `select s.reason, k.key, null::bigint as person_id, s.channels, s.until from suppression_standing s join suppression_key k on k.suppression_id = s.id
     where k.key = any(?::bytea[]) and s.scope <> 'person' and s.since <= ?
     union all select s.reason, null, s.person_id, s.channels, s.until from suppression_standing s where s.scope = 'person' and s.person_id = any(?::bigint[]) and s.since <= ?`,
    [keys, at, people, at] as never,
  )
  return new Set(
    rows.map((row) =>
      [
        row.reason,
        row.key ? row.key.toString('hex') : `person ${row.person_id}`,
        [...row.channels].sort().join(),
        row.until?.toISOString() ?? '',
      ].join('|'),
    ),
  )
}

/** Returns the names of the registers that were ever brought in. */
export async function registerNames(trx: Knex) {
  return await trx('register_file').distinct('name')
}

/** Inserts the keys of a register file. A key that is there already is skipped. */
export async function insertRegisterKeys(trx: Knex, rows: { batch_id: number; key: Buffer<ArrayBufferLike> }[]) {
  return await insertRows(trx, 'register_key', { batch_id: 'bigint', key: 'bytea' }, rows, { conflict: 'do nothing' })
}

/** Returns the batch of the version before this one of a register; undefined where there is none. */
export async function versionBefore(trx: Knex, registerName: string, registerVersion: string) {
  return await trx('register_file')
    .where({ name: registerName })
    .where('version', '<', registerVersion)
    .whereNotNull('batch_id')
    .orderBy('version', 'desc')
    .first('batch_id')
}

/** Returns how many keys one register file has that the other lacks. */
export async function keysApart(trx: Knex, one: number, other: number) {
  const { rows } = await trx.raw(
    'select count(*)::int as n from register_key k where k.batch_id = ? and not exists (select 1 from register_key o where o.batch_id = ? and o.key = k.key)',
    [one, other],
  )
  return rows
}

/** Inserts a version of a register, with how many numbers are new and how many are gone against the version before. */
export async function insertRegisterFile(
  trx: Knex,
  {
    fresh,
    gone,
    registerName,
    registerVersion,
    batchId,
    at,
  }: { fresh: number | null; gone: number | null; registerName: string; registerVersion: string; batchId: number; at: Date },
) {
  return await trx('register_file').insert({
    name: registerName,
    version: registerVersion,
    good_for: 31,
    batch_id: batchId,
    recorded_at: at,
    fresh,
    gone,
  })
}

import type { Channel } from '@/core/columns/person-record'
import type { Knex } from '@/db/connection'

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

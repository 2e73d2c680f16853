import type { Knex } from 'knex'
import { comparablePostal, type PostalParts, postalKey } from '@/core/clean/postal'
import { addressKey } from '../key'

const BLOCK = 5000

/**
 * A postal address is keyed by a second comparable form, with units, directions and post boxes in one order, beside the first,
 * which stays: suppressions know nothing else. Where an address that a suppression names is at hand, it takes on the second key.
 */
export async function up(knex: Knex): Promise<void> {
  for (let after = 0; ; ) {
    const rows: { id: number; person_id: number; key: Buffer; parts: PostalParts | null }[] = await knex('address')
      .where({ channel: 'post' })
      .where('id', '>', after)
      .orderBy('id')
      .limit(BLOCK)
      .select('id', 'person_id', 'key', 'parts')
    if (rows.length === 0) break
    after = rows[rows.length - 1].id
    const second = rows.flatMap((row) => {
      const whole = row.parts && comparablePostal(row.parts)
      return row.parts && whole !== null && whole !== postalKey(row.parts) ? [{ ...row, whole, second: addressKey('post', whole) }] : []
    })
    if (second.length === 0) continue
    await knex.raw('update address t set domain_key = k.key from unnest(?::bigint[], ?::bytea[]) as k(id, key) where t.id = k.id', [
      second.map((r) => r.id),
      second.map((r) => r.second),
    ])
    await knex.raw(
      'update person t set address_key = k.whole from unnest(?::bigint[], ?::text[]) as k(id, whole) where t.id = k.id and t.address_key is not null and t.street is not null',
      [second.map((r) => r.person_id), second.map((r) => r.whole)],
    )
    await knex.raw(
      `insert into suppression_key (suppression_id, channel, key) select k.suppression_id, 'post', n.second from unnest(?::bytea[], ?::bytea[]) as n(first, second) join suppression_key k on k.key = n.first and k.channel = 'post'
       join suppression s on s.id = k.suppression_id and s.scope = 'post' on conflict do nothing`,
      [second.map((r) => r.key), second.map((r) => r.second)],
    )
  }
}

export async function down(knex: Knex): Promise<void> {
  // The second keys of suppressions stay: none may be lost.
  await knex.raw(`update address set domain_key = null where channel = 'post'`)
}

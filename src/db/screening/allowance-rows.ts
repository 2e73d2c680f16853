import { FIELD } from '@/core/clean/standard-fields'
import { ANSWERS } from '@/core/records/results'
import { BY_REQUEST } from '@/core/screening/message-requests'
import type { Allowance } from '@/core/screening/kind'
import type { Knex } from '@/db/connection'

/**
 * How many people who take direct messages by request were sent one since an instant, each counted once, and how many of them answered since;
 * and how many more open rounds are still to ask, without those of `except`. Whoever was merged counts as the record that stays.
 */
export async function requestsMade(trx: Knex, since: Date, except: readonly number[]): Promise<Allowance> {
  const { rows } = await trx.raw<{ rows: Allowance[] }>(
    `with asked as materialized (
       select r.id, bool_or(e.result = any(:answers::text[])) as answered from entry e join person p on p.id = e.person_id
         join person r on r.id = coalesce(p.merged_into, p.id)
       where e.kind = 'contact' and e.channel = 'direct' and e.at >= :since and r.custom ->> '${FIELD.direct}' = :by
         and not exists (select 1 from entry x where x.reverses_id = e.id)
       group by r.id)
     select (select count(*) from asked)::int as used, (select count(*) from asked where answered)::int as refunded,
       (select count(distinct r.id) from contact_to_come t join round o on o.id = t.round_id and o.closed_at is null and o.id <> all(:except::bigint[])
          join person p on p.id = t.person_id join person r on r.id = coalesce(p.merged_into, p.id)
        where t.channel = 'direct' and t.ended_at is null and r.custom ->> '${FIELD.direct}' = :by and r.id not in (select id from asked))::int as "toCome"`,
    { answers: [...ANSWERS], since, by: BY_REQUEST, except: [...except] } as never,
  )
  return rows[0]
}

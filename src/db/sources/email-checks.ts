import { type SourceName, SOURCES } from '@/core/sources/source'
import type { Knex } from '@/db/connection'

/** Closes addresses that were checked as bad and opens those that were and are not any more. `where` names the addresses by a. */
export async function applyChecks(
  trx: Knex,
  where: string,
  bindings: unknown[],
): Promise<{ person_id: number; value: string; usable: boolean; why: string }[]> {
  const { rows } = await trx.raw(
    `update address a set usable = c.state <> 'bad', why_unusable = case when c.state = 'bad' then ? || c.why end from email_check c
     where c.key = a.key and a.channel = 'email' and ${where}
       and (case when c.state = 'bad' then a.usable else not a.usable and a.why_unusable like ? end) returning a.person_id, a.value, a.usable, c.why`,
    [BAD, ...bindings, `${BAD}%`] as never,
  )
  return rows
}

export const BAD = 'checked as bad: '

/** Returns the email addresses of up to 5,000 people from place `i` on that can be checked, each once, with its last check. */
export async function addressesToCheck(trx: Knex, people: number[], i: number) {
  const { rows } = await trx.raw(
    `select distinct on (a.key) encode(a.key, 'hex') as key, a.value, p.name, p.id, c.state, c.why, c.at from address a join person p on p.id = a.person_id left join email_check c on c.key = a.key
         where a.channel = 'email' and (a.usable or c.state = 'bad') and a.person_id = any(?::bigint[]) order by a.key, a.person_id`,
    [people.slice(i, i + 5000)] as never,
  )
  return rows
}

/** Writes the results of checks by key. A newer check replaces the one before. */
export async function writeChecks(
  trx: Knex,
  at: Date,
  source: SourceName,
  actorId: string,
  rows: { key: string; state: 'verified' | 'uncertain' | 'bad'; why: string }[],
) {
  return await trx.raw(
    `insert into email_check (key, state, why, at, source, actor_id) select decode(r.key, 'hex'), r.state, r.why, ?, ?, ? from jsonb_to_recordset(?::jsonb) as r(key text, state text, why text)
     on conflict (key) do update set state = excluded.state, why = excluded.why, at = excluded.at, source = excluded.source, actor_id = excluded.actor_id`,
    [at, SOURCES[source].name, actorId, JSON.stringify(rows)],
  )
}

/** Of the email addresses of some people that a check would ask about, those that were not checked since an instant, and those of them that never were. */
export async function countStale(trx: Knex, people: readonly number[], since: Date): Promise<{ stale: number; never: number }> {
  const { rows } = await trx.raw(
    `select count(*)::int as stale, (count(*) filter (where at is null))::int as never from (
       select distinct on (a.key) c.at from address a left join email_check c on c.key = a.key
       where a.channel = 'email' and (a.usable or c.state = 'bad') and a.person_id = any(?::bigint[])) x where at is null or at <= ?`,
    [[...people], since] as never,
  )
  return rows[0]
}

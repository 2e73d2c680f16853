import type { Knex } from 'knex'

/** What must be read anew, and where in the log that was learnt. `all` stands for everybody. */
export interface Changes {
  position: string
  people: number[] | 'all'
  /** Rounds that were released, or whose seats moved to another record. */
  rounds: number[]
  /** Rounds whose contacts to come changed in number. */
  toCome: number[]
}

/** The present position in the change log: a snapshot, since sequence numbers commit out of order. */
export async function currentPosition(trx: Knex): Promise<string> {
  return (await trx.raw('select pg_current_snapshot()::text as at')).rows[0].at
}

/**
 * What was marked by transactions that this transaction sees and the position did not. Organisations, suppressions and
 * merged records are resolved to people here, in the reader's snapshot, which sees everything that either writer
 * committed. Must run in a REPEATABLE READ transaction together with the reading of the values.
 */
export async function changesSince(trx: Knex, position: string): Promise<Changes> {
  const next = await currentPosition(trx)
  if (next === position) return { position: next, people: [], rounds: [], toCome: [] }
  const { rows } = await trx.raw<{ rows: { what: string; ids: number[] | null }[] }>(
    `select what, ids from change_log
     where xid >= pg_snapshot_xmin(?::pg_snapshot) and not pg_visible_in_snapshot(xid, ?::pg_snapshot)`,
    [position, position],
  )
  const of = (what: string) => [...new Set(rows.filter((row) => row.what === what).flatMap((row) => row.ids ?? []))]
  const rounds = of('round')
  if (rows.some((row) => row.ids === null)) return { position: next, people: 'all', rounds, toCome: [] }
  return { position: next, people: rows.length === 0 ? [] : await peopleOf(trx, of('person'), of('organisation'), of('suppression')), rounds, toCome: of('to come') }
}

async function peopleOf(trx: Knex, people: number[], organisations: number[], suppressions: number[]): Promise<number[]> {
  const { rows } = await trx.raw<{ rows: { id: number }[] }>(
    `with marked(id) as (
       select unnest(?::bigint[])
       union select id from person where organisation_id = any(?::bigint[])
       union select person_id from suppression where id = any(?::bigint[]) and person_id is not null
       union select p.id from suppression s join person p on p.organisation_id = s.organisation_id where s.id = any(?::bigint[])
       union select a.person_id from address a join suppression_key k on k.key = a.key where k.suppression_id = any(?::bigint[])
       union select a.person_id from address a join suppression_key k on k.key = a.domain_key where k.suppression_id = any(?::bigint[])
       union select p.id from suppression_key k join organisation o on o.key = k.key join person p on p.organisation_id = o.id where k.suppression_id = any(?::bigint[]))
     select id from marked union select merged_into from person join marked using (id) where merged_into is not null`,
    [people, organisations, suppressions, suppressions, suppressions, suppressions, suppressions],
  )
  return rows.map((row) => row.id)
}

import type { Knex } from 'knex'

/** Which people must be read anew, and where in the log that was learnt. `all` stands for everybody. */
export interface Changes {
  position: string
  people: number[] | 'all'
}

/** The present position in the change log: a snapshot, since sequence numbers commit out of order. */
export async function currentPosition(trx: Knex): Promise<string> {
  return (await trx.raw('select pg_current_snapshot()::text as at')).rows[0].at
}

/**
 * What was marked by transactions that this transaction sees and the position did not. Organisations and suppressions
 * are resolved to people here, in the reader's snapshot, which sees everything that either writer committed.
 * Must run in a REPEATABLE READ transaction together with the reading of the values.
 */
export async function changesSince(trx: Knex, position: string): Promise<Changes> {
  const next = await currentPosition(trx)
  const { rows } = await trx.raw<{ rows: { what: string; ids: number[] | null }[] }>(
    `select what, ids from change_log
     where xid >= pg_snapshot_xmin(?::pg_snapshot) and not pg_visible_in_snapshot(xid, ?::pg_snapshot)`,
    [position, position],
  )
  if (rows.some((row) => row.ids === null)) return { position: next, people: 'all' }
  const of = (what: string) => [...new Set(rows.filter((row) => row.what === what).flatMap((row) => row.ids as number[]))]
  const people = new Set(of('person'))
  for (const id of await peopleOf(trx, of('organisation'), of('suppression'))) people.add(id)
  return { position: next, people: [...people] }
}

async function peopleOf(trx: Knex, organisations: number[], suppressions: number[]): Promise<number[]> {
  if (organisations.length + suppressions.length === 0) return []
  const { rows } = await trx.raw<{ rows: { id: number }[] }>(
    `select id from person where organisation_id = any(?::bigint[])
     union select person_id from suppression where id = any(?::bigint[]) and person_id is not null
     union select a.person_id from address a join suppression_key k on k.key = a.key where k.suppression_id = any(?::bigint[])`,
    [organisations, suppressions, suppressions],
  )
  return rows.map((row) => row.id)
}


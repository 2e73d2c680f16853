import type { Knex } from 'knex'

/** What must be read anew, and where in the log that was learnt. `all` stands for everybody. */
export interface Changes {
  position: string
  people: number[] | 'all'
  /** Those of the people whose contacts changed; of the others they are as they were. */
  contacts: number[]
  organisations: number[]
  premises: number[]
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
 * What was marked by transactions that this transaction sees and the position did not. Organisations, premises, suppressions
 * and merged records are resolved to people here, in the reader's snapshot, which sees everything that either writer
 * committed. Must run in a REPEATABLE READ transaction together with the reading of the values.
 */
export async function changesSince(trx: Knex, position: string): Promise<Changes> {
  const next = await currentPosition(trx)
  if (next === position) return { position: next, people: [], contacts: [], organisations: [], premises: [], rounds: [], toCome: [] }
  const { rows } = await trx.raw<{ rows: { what: string; ids: number[] | null }[] }>(
    `select what, ids from change_log
     where xid >= pg_snapshot_xmin(?::pg_snapshot) and not pg_visible_in_snapshot(xid, ?::pg_snapshot)`,
    [position, position],
  )
  const of = (what: string) => [...new Set(rows.filter((row) => row.what === what).flatMap((row) => row.ids ?? []))]
  const rounds = of('round')
  if (rows.some((row) => row.ids === null))
    return { position: next, people: 'all', contacts: [], organisations: [], premises: [], rounds, toCome: [] }
  if (rows.length === 0) return { position: next, people: [], contacts: [], organisations: [], premises: [], rounds, toCome: [] }
  const [organisations, premises] = [of('organisation'), of('premises')]
  const contacts = await withWhoStayed(trx, of('contact'))
  const people = await peopleOf(trx, [...of('person'), ...contacts], organisations, of('suppression'), premises)
  return {
    position: next,
    people,
    contacts,
    organisations: await organisationsOf(trx, organisations, premises),
    premises: await premisesOf(trx, premises, people, organisations),
    rounds,
    toCome: of('to come'),
  }
}

/**
 * The people whom other transactions changed since a position, in any way that is marked: their own facts, addresses, contacts,
 * suppressions, organisation. `all` after a bulk load. What this transaction wrote itself is not among it. For a transaction
 * that reads what was committed until now (READ COMMITTED).
 */
export async function changedByOthers(trx: Knex, position: string): Promise<number[] | 'all'> {
  const { rows } = await trx.raw<{ rows: { what: string; ids: number[] | null }[] }>(
    `select what, ids from change_log
     where xid >= pg_snapshot_xmin(?::pg_snapshot) and not pg_visible_in_snapshot(xid, ?::pg_snapshot) and xid <> pg_current_xact_id()`,
    [position, position],
  )
  if (rows.some((row) => row.ids === null)) return 'all'
  const of = (...whats: string[]) => [...new Set(rows.filter((row) => whats.includes(row.what)).flatMap((row) => row.ids ?? []))]
  const people = of('person', 'contact')
  const rounds = of('to come')
  if (rounds.length > 0)
    people.push(...(await trx('contact_to_come').whereIn('round_id', rounds).distinct('person_id')).map((t) => t.person_id))
  return people.length + of('organisation', 'suppression').length === 0
    ? []
    : peopleOf(trx, people, of('organisation'), of('suppression'), [])
}

/** People, and those they were merged into. */
async function withWhoStayed(trx: Knex, people: number[]): Promise<number[]> {
  if (people.length === 0) return []
  const { rows } = await trx.raw('select distinct merged_into as id from person where id = any(?::bigint[]) and merged_into is not null', [
    people,
  ])
  return [...people, ...rows.map((row: { id: number }) => row.id)]
}

/** Organisations that are marked, and those at the address of premises that are. */
async function organisationsOf(trx: Knex, organisations: number[], premises: number[]): Promise<number[]> {
  if (premises.length === 0) return organisations
  const { rows } = await trx.raw(
    'select distinct o.id from organisation o join premises q on q.address_key = o.address_key where q.id = any(?::bigint[])',
    [premises],
  )
  return [...new Set([...organisations, ...rows.map((row: { id: number }) => row.id)])]
}

/** Premises that are marked, and those whose owner may be somebody or an organisation that is. */
async function premisesOf(trx: Knex, premises: number[], people: number[], organisations: number[]): Promise<number[]> {
  if (people.length + organisations.length === 0) return premises
  const { rows } = await trx.raw(
    `select q.id from person p join premises q on q.owner_name_key = p.name_key and q.owner_address_key = p.address_key where p.id = any(?::bigint[])
     union select q.id from organisation o join premises q on q.owner_organisation_key = o.name_key where o.id = any(?::bigint[])`,
    [people, organisations],
  )
  return [...new Set([...premises, ...rows.map((row: { id: number }) => row.id)])]
}

async function peopleOf(
  trx: Knex,
  people: number[],
  organisations: number[],
  suppressions: number[],
  premises: number[],
): Promise<number[]> {
  const { rows } = await trx.raw<{ rows: { id: number }[] }>(
    `with marked(id) as (
       select unnest(?::bigint[])
       union select id from person where organisation_id = any(?::bigint[])
       union select person_id from suppression_touch where suppression_id = any(?::bigint[])
       union select p.id from premises q join person p on p.address_key = q.address_key where q.id = any(?::bigint[])
       union select p.id from premises q join organisation o on o.address_key = q.address_key join person p on p.organisation_id = o.id where q.id = any(?::bigint[]))
     select id from marked union select merged_into from person join marked using (id) where merged_into is not null`,
    [people, organisations, suppressions, premises, premises],
  )
  return rows.map((row) => row.id)
}

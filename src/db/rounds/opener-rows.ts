import type { OpenerCandidate } from '@/core/changes/choose-opener'
import type { Knex } from '@/db/connection'
import { insertRows } from '@/db/insert-rows'

/** A kind of changes that a list takes openers from. */
export interface OpenerWish {
  kind: number
  /** The list's own sentence; null for the kind's. */
  own: string | null
  name: string
  asks: OpenerCandidate['asks']
  freshDays: number | null
  /** The sentence of the kind. */
  ofKind: string | null
}

/** A query that gives these ids. */
export const theseIds = (ids: readonly number[]): string => `select unnest('{${ids.map(Number).join(',')}}'::bigint[])`

/** The kinds a list takes openers from, in the order of the kinds. */
export async function openerWishes(trx: Knex, list: number): Promise<OpenerWish[]> {
  return await trx('list_opener as w')
    .join('change_kind as k', 'k.id', 'w.kind_id')
    .where({ list_id: list })
    .whereNull('k.archived_at')
    .orderBy('k.id')
    .select('k.id as kind', 'w.opener as own', 'k.name', 'k.asks', 'k.fresh_days as freshDays', 'k.opener as ofKind')
}

/** Writes which kinds of change a list wants openers of, and its own words for them. */
export async function writeOpenerWishes(trx: Knex, list: number, wishes: readonly { kind: number; own: string | null }[]): Promise<void> {
  await trx('list_opener').where({ list_id: list }).delete()
  if (wishes.length > 0) await trx('list_opener').insert(wishes.map(({ kind, own }) => ({ list_id: list, kind_id: kind, opener: own })))
}

/** A change that could give somebody an opener, with its values as they are stored. */
export interface OpenerRow {
  person: number
  change: number
  kind: number
  sure: OpenerCandidate['sure']
  state: OpenerCandidate['state']
  after_day: string | null
  by_day: string
  field: string | null
  before: string | null
  after: string | null
  /** What the field of the person is now; null where it is of another subject, or of another field. */
  now: string | null
  /** A later change of the same field is on record. */
  later: boolean
  given: string
  organisation: string | null
}

/**
 * The changes of some people, of their organisations and of premises where they are or that they own, of the kinds a list takes openers
 * from, by `since` (YYYY-MM-DD) or later. What is still to be read anew is left out. `people` is a query for ids.
 */
export async function openerRows(trx: Knex, list: number, people: string, since: string): Promise<OpenerRow[]> {
  const { rows } = await trx.raw<{ rows: OpenerRow[] }>(
    `with who as materialized (select p.id, p.given, p.role, p.organisation_id, p.address_key, p.name_key, o.name as organisation, o.address_key as their_address
       from person p left join organisation o on o.id = p.organisation_id where p.id in (${people}) and p.state = 'live'),
     kinds as materialized (select kind_id from list_opener where list_id = :list),
     near as (select w.id as person, c.id as change from who w join change c on c.person_id = w.id where c.by_day >= :since
       union select w.id, c.id from who w join change c on c.organisation_id = w.organisation_id where c.by_day >= :since
       union select w.id, c.id from who w join premises q on q.address_key = w.address_key join change c on c.premises_id = q.id where c.by_day >= :since and ${NO_OWNERS}
       union select w.id, c.id from who w join premises q on q.address_key = w.their_address join change c on c.premises_id = q.id where c.by_day >= :since and ${NO_OWNERS}
       union select w.id, c.id from who w join premises q on q.owner_name_key = w.name_key and q.owner_address_key = w.address_key join change c on c.premises_id = q.id where c.by_day >= :since)
     select n.person, c.id as change, c.kind_id as kind, c.sure, c.state, c.after_day, c.by_day, c.field, coalesce(fv.after, v.before) as before, v.after,
       case when c.person_id is null then null when c.field = 'role' then w.role when c.field = 'organisation' then w.organisation end as now,
       c.field is not null and exists (select 1 from change x where x.person_id is not distinct from c.person_id and x.organisation_id is not distinct from c.organisation_id
         and x.premises_id is not distinct from c.premises_id and x.field = c.field and x.gone_at is null and x.id <> c.id and (x.by_day, x.id) > (c.by_day, c.id)) as later,
       w.given, w.organisation
     from near n join who w on w.id = n.person join change c on c.id = n.change join entry e on e.id = c.entry_id left join entry_value v on v.id = e.value_id
     left join entry fe on fe.id = c.from_entry left join entry_value fv on fv.id = fe.value_id
     where c.kind_id in (select kind_id from kinds) and c.gone_at is null and ${READ('c')}
     order by n.person, c.id`,
    { list, since } as never,
  )
  return rows
}

/** That premises changed hands is said to whoever owns them, not to everybody who is there. */
const NO_OWNERS = `c.kind_id not in (select id from change_kind where key = 'hands')`

/** Whether a change's record is not marked to be read anew. */
const READ = (c: string) =>
  `not exists (select 1 from change_due d where d.person_id = ${c}.person_id or d.organisation_id = ${c}.organisation_id or d.premises_id = ${c}.premises_id)`

/** What people got as openers in rounds, those of records merged into them too. `people` is a query for ids. */
export async function openersGot(trx: Knex, people: string): Promise<{ person: number; change: number; text: string | null }[]> {
  const { rows } = await trx.raw(
    `select coalesce(p.merged_into, p.id) as person, g.change_id as change, g.text from round_opener g join person p on p.id = g.person_id
     where p.id in (${people}) or p.merged_into in (${people})`,
  )
  return rows
}

/** Keeps which opener each person of a round got, so that nobody gets the same one twice. */
export async function insertOpeners(trx: Knex, rows: readonly { round_id: number; person_id: number; change_id: number; text: string }[]) {
  await insertRows(trx, 'round_opener', { round_id: 'bigint', person_id: 'bigint', change_id: 'bigint', text: 'text' }, [...rows])
}

/** Holds the changes that the openers of a round rest on as they are, to the end of the transaction. */
export async function lockOpeners(trx: Knex, round: number): Promise<void> {
  await trx.raw('select c.id from change c where c.id in (select change_id from round_opener where round_id = ?) order by c.id for share', [
    round,
  ])
}

/** How many openers of a round rest on a change that does not count any more, is somebody's to deal with, or is to be read anew. */
export async function openersFallen(trx: Knex, round: number): Promise<number> {
  const { rows } = await trx.raw(
    `select count(*)::int as n from round_opener o join change c on c.id = o.change_id
     where o.round_id = ? and (c.gone_at is not null or c.state in ('taken', 'set aside') or not (${READ('c')}))`,
    [round],
  )
  return rows[0].n
}

/** Every opener of a round, by person. */
export async function allOpeners(trx: Knex, round: number): Promise<Map<number, string>> {
  return new Map(
    (await trx('round_opener').where({ round_id: round }).whereNotNull('text').select('person_id', 'text')).map((o) => [
      o.person_id,
      o.text,
    ]),
  )
}

/** The openers of some people in a released round. */
export async function openersOfRound(trx: Knex, round: number, people: readonly number[]): Promise<Map<number, string>> {
  const rows = await trx('round_opener')
    .where({ round_id: round })
    .whereNotNull('text')
    .whereRaw('person_id = any(?::bigint[])', [[...people]])
    .select('person_id', 'text')
  return new Map(rows.map((row) => [row.person_id, row.text]))
}

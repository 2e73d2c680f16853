import type { Knex } from '@/db/connection'

/** A person who is, or in a period was, at some organisations; with what they are now. */
export interface MoverRow {
  id: number
  name: string
  organisation_id: number | null
  organisation: string | null
  organisation_key: string | null
  role: string | null
  known: boolean
}

/** A change of role or organisation of theirs in the period, the latest first; not what was only reported. */
export interface MoveRow {
  person_id: number
  field: 'role' | 'organisation'
  before: string | null
  after: string | null
}

const MOST = 50_000

/**
 * Everybody who is at some organisations, and everybody who had one of their names before a change since a day; with their changes of
 * role and organisation since. `since` is the first day of the period (YYYY-MM-DD), `from` the instant at which it begins.
 */
export async function moversAt(
  trx: Knex,
  organisations: readonly number[],
  since: string,
  from: Date,
): Promise<{ people: MoverRow[]; moves: MoveRow[]; keys: string[] }> {
  const { rows: names } = await trx.raw<{ rows: { name_key: string; lowered: string }[] }>(
    'select name_key, lower(name) as lowered from organisation where id = any(?::bigint[])',
    [[...organisations]],
  )
  const { rows: people } = await trx.raw<{ rows: MoverRow[] }>(
    `with gone as (
       select distinct c.person_id from change c join entry e on e.id = c.entry_id left join entry_value v on v.id = e.value_id
         left join entry fe on fe.id = c.from_entry left join entry_value fv on fv.id = fe.value_id
       where c.field = 'organisation' and c.gone_at is null and c.by_day >= :since and exists (select 1 from entry x where x.id = any(c.reports) and x.kind = 'change')
         and lower(coalesce(fv.after, v.before)) = any(:names::text[]))
     select p.id, p.name, p.organisation_id, o.name as organisation, o.name_key as organisation_key, p.role, p.created_at < :from as known
     from person p left join organisation o on o.id = p.organisation_id
     where p.state = 'live' and (p.organisation_id = any(:ids::bigint[]) or p.id in (select person_id from gone)) order by p.sort_key, p.id limit ${MOST}`,
    { ids: [...organisations], since, from, names: names.map((n) => n.lowered) } as never,
  )
  const { rows: moves } = await trx.raw<{ rows: MoveRow[] }>(
    `select c.person_id, c.field, coalesce(fv.after, v.before) as before, v.after
     from change c join entry e on e.id = c.entry_id left join entry_value v on v.id = e.value_id
       left join entry fe on fe.id = c.from_entry left join entry_value fv on fv.id = fe.value_id
     where c.person_id = any(:people::bigint[]) and c.field in ('role', 'organisation') and c.gone_at is null and c.by_day >= :since
       and exists (select 1 from entry x where x.id = any(c.reports) and x.kind = 'change')
     order by c.by_day desc, c.id desc`,
    { people: people.map((p) => p.id), since } as never,
  )
  return { people, moves, keys: names.map((n) => n.name_key) }
}

/** The organisations of everybody on some lists of people, and those on lists of organisations, by what was kept when changes were last told. */
export async function organisationsOf(trx: Knex, people: readonly number[]): Promise<number[]> {
  const { rows } = await trx.raw<{ rows: { id: number }[] }>(
    'select distinct organisation_id as id from person where id = any(?::bigint[]) and organisation_id is not null',
    [[...people]],
  )
  return rows.map(({ id }) => id)
}

/** Organisations we have worked with: somebody there is a customer, or was. */
export async function workedWith(trx: Knex, keys: readonly string[]): Promise<Set<string>> {
  const { rows } = await trx.raw<{ rows: { name_key: string }[] }>(
    `select distinct o.name_key from organisation o join person p on p.organisation_id = o.id
     where o.name_key = any(?::text[]) and p.relation in ('customer', 'former customer') and p.state = 'live'`,
    [[...keys]],
  )
  return new Set(rows.map((row) => row.name_key))
}

/** Lists somebody follows, with whom was on each when changes were last told. */
export async function standingsFollowed(
  trx: Knex,
  me: string,
  list: number | null,
): Promise<{ id: number; name: string; subject: string; members: Buffer }[]> {
  const { rows } = await trx.raw(
    `select l.id, l.name, l.subject, s.members from list l join standing s on s.list_id = l.id left join follow f on f.list_id = l.id and f.user_id = :me
     where l.deleted_at is null and role_on(l, :me) is not null and l.subject in ('person', 'organisation')
       and case when :list::bigint is null then l.archived_at is null and coalesce(f.following, true) else l.id = :list end order by l.name`,
    { me, list } as never,
  )
  return rows
}

import type { Asks } from '@/core/changes/asks'
import type { Standing } from '@/core/changes/account'
import type { Knex } from '@/db/connection'

/** A change as it stands for one colleague, with what its freshness and its place are told by. */
export interface StandingRow extends Omit<Standing, 'then' | 'now'> {
  after_day: string | null
  by_day: string
  sure: string
  fresh_days: number | null
  lists: number[] | null
}

/** What of changes reaches somebody: through lists they may see and follow, and through records they follow. The rule in one place. */
const REACHES = `
  own_list as materialized (select f.list_id, f.since, f.since - f.reach_days * interval '1 day' as from_at from follow f join list l on l.id = f.list_id
    where f.user_id = :me and f.following and l.deleted_at is null and l.archived_at is null and role_on(l, :me) is not null),
  through as materialized (select t.change_id, array_agg(t.list_id order by t.list_id) as lists, bool_and(o.since > :looked) as newly from own_list o join told t on t.list_id = o.list_id and t.learned_at >= o.from_at
    join change c on c.id = t.change_id join change_kind k on k.id = c.kind_id
    where k.key is distinct from 'detail' or t.moved group by 1),
  own_record as materialized (select * from follow f where f.user_id = :me and f.following and f.list_id is null),
  followed as materialized (select c.id as change_id, bool_and(c.since > :looked) as newly from (
      select c.id, c.learned_at, f.since, f.reach_days from own_record f join change c on c.person_id = f.person_id
      union all select c.id, c.learned_at, f.since, f.reach_days from own_record f join change c on c.organisation_id = f.organisation_id
      union all select c.id, c.learned_at, f.since, f.reach_days from own_record f join change c on c.premises_id = f.premises_id) c
    where c.learned_at >= c.since - c.reach_days * interval '1 day' group by 1)`

/** Follows the lists somebody may see and did not follow or mute yet, from now on and so many days back. */
export async function followSeenLists(trx: Knex, me: string, at: Date, reachDays: number): Promise<void> {
  await trx.raw(
    `insert into follow (user_id, list_id, since, reach_days) select :me, l.id, :at, :reachDays from list l
     where l.deleted_at is null and role_on(l, :me) is not null and not exists (select 1 from follow f where f.user_id = :me and f.list_id = l.id)
     on conflict do nothing`,
    { me, at, reachDays } as never,
  )
}

/** Every change that reaches somebody now, and those that were unhandled for them when they last looked. */
export async function changesFor(
  trx: Knex,
  { me, today, looked, then }: { me: string; today: string; looked: Date | null; then: readonly number[] },
): Promise<StandingRow[]> {
  const { rows } = await trx.raw<{ rows: StandingRow[] }>(
    `with ${REACHES},
     wanted as (select change_id from through union select change_id from followed union select unnest(:then::bigint[]))
     select c.id, c.state, c.state_by = :me as "byThem", c.gone_at is not null as gone, c.after_day, c.by_day, c.sure, k.fresh_days, t.lists,
       coalesce(c.told_at > :looked, false) as "toldSince", coalesce(t.newly, true) and coalesce(fo.newly, true) as newly,
       coalesce(c.state = 'open' and c.state_at > :looked, false) as reopened, coalesce(c.state_at > coalesce(:looked, c.learned_at), false) as "settledSince",
       case when m.put_off_until is null then null when m.put_off_until > :today then 'waiting' else 'due' end as "putOff",
       (t.change_id is not null or fo.change_id is not null) and not exists (select 1 from muted_kind mk where mk.user_id = :me and mk.kind_id = c.kind_id) as followed,
       case when p.relation = 'in talks' or exists (select 1 from person x where x.organisation_id = c.organisation_id and x.relation = 'in talks' and x.state = 'live') then 'lead' else k.asks end as asks
     from wanted w join change c on c.id = w.change_id join change_kind k on k.id = c.kind_id
     left join through t on t.change_id = c.id left join followed fo on fo.change_id = c.id left join change_mine m on m.change_id = c.id and m.user_id = :me
     left join person p on p.id = c.person_id
     order by c.id`,
    { me, today, looked, then: [...then] } as never,
  )
  return rows
}

/** When somebody last looked, what was unhandled for them then (packed ids), and how far back what they begin to follow reaches. */
export async function lookOf(trx: Knex, me: string): Promise<{ at: Date; unhandled: Buffer; reach_days: number } | undefined> {
  return await trx('change_look').where({ user_id: me }).first('at', 'unhandled', 'reach_days')
}

/** Keeps when a colleague last looked at Changes, and the set of changes that were unhandled for them then. */
export async function keepLook(trx: Knex, me: string, at: Date, unhandled: Buffer): Promise<void> {
  await trx('change_look').insert({ user_id: me, at, unhandled }).onConflict('user_id').merge(['at', 'unhandled'])
}

/** A change with everything a row tells of it. */
export interface ShownRow {
  id: number
  person_id: number | null
  organisation_id: number | null
  premises_id: number | null
  name: string
  given: string | null
  organisation: string | null
  kind: string
  key: string | null
  kind_id: number
  opener: string | null
  asks: Asks
  field: string | null
  before: string | null
  after: string | null
  note: string | null
  entry_kind: string
  source: string
  sources: number
  after_day: string | null
  by_day: string
  sure: string
  fresh_days: number | null
  state: 'open' | 'taken' | 'handled' | 'set aside'
  state_by: string | null
  state_name: string | null
  put_off_until: string | null
  confirmed: boolean
  leads: string | null
  relation: string | null
  result: string | null
  channel: string | null
  contacted_at: Date | null
  contacted_by: string | null
  told: { id: number; name: string; before: boolean; after: boolean; moved: boolean }[] | null
}

/** What is shown of some changes, in the order asked for. Lists are named only where whoever looks may see them. */
export async function shownChanges(trx: Knex, ids: readonly number[], me: string, zone: string): Promise<ShownRow[]> {
  if (ids.length === 0) return []
  const { rows } = await trx.raw<{ rows: ShownRow[] }>(
    `select c.id, c.person_id, c.organisation_id, c.premises_id, coalesce(p.name, o.name, q.name) as name, p.given, po.name as organisation,
       k.name as kind, k.key, k.id as kind_id, k.opener,
       case when p.relation = 'in talks' or exists (select 1 from person x where x.organisation_id = c.organisation_id and x.relation = 'in talks' and x.state = 'live') then 'lead' else k.asks end as asks,
       c.field, coalesce(fv.after, v.before) as before, v.after, v.note, e.kind as entry_kind, e.result, e.channel,
       coalesce(r.source, b.file_name, u.name, 'the directory') as source, c.sources, c.after_day, c.by_day, c.sure, k.fresh_days, c.state, c.state_by, s.name as state_name,
       m.put_off_until, exists (select 1 from change_decision d where d.change_id = c.id and d.undone_at is null) as confirmed, coalesce(p.custom, hp.custom) ->> '-9' as leads, p.relation, contact.at as contacted_at, contact.by as contacted_by,
       (select jsonb_agg(jsonb_build_object('id', l.id, 'name', l.name, 'before', t.before, 'after', t.after, 'moved', t.moved) order by l.name)
          from told t join list l on l.id = t.list_id where t.change_id = c.id and l.deleted_at is null and l.archived_at is null and role_on(l, :me) is not null) as told
     from unnest(:ids::bigint[]) with ordinality w(id, n) join change c on c.id = w.id join change_kind k on k.id = c.kind_id
     join entry e on e.id = c.entry_id left join entry_value v on v.id = e.value_id
     left join entry fe on fe.id = c.from_entry left join entry_value fv on fv.id = fe.value_id
     left join report r on r.entry_id = e.id left join batch b on b.id = e.batch_id left join "user" u on u.id = e.actor_id left join "user" s on s.id = c.state_by
     left join person p on p.id = c.person_id left join organisation po on po.id = p.organisation_id
     left join organisation o on o.id = c.organisation_id left join premises q on q.id = c.premises_id
     left join lateral (select x.custom from person x where x.organisation_id = c.organisation_id and x.relation = 'in talks' and x.state = 'live' order by x.id limit 1) hp on true
     left join change_mine m on m.change_id = c.id and m.user_id = :me
     left join lateral (select x.at, xu.name as by from entry x left join "user" xu on xu.id = x.actor_id where x.person_id = c.person_id and x.kind = 'contact' and x.id <> e.id
         and x.at <= c.by_day::timestamp at time zone :zone + interval '1 day' and x.at >= c.by_day::timestamp at time zone :zone - interval '14 days' order by x.at desc, x.id desc limit 1) contact on k.asks = 'answer'
     order by w.n`,
    { ids: [...ids], me, zone } as never,
  )
  return rows
}

/** Returns the name of each list by its id; a list that does not exist is left out. */
export async function listNames(trx: Knex, ids: readonly number[]): Promise<Map<number, string>> {
  return new Map(
    (
      await trx('list')
        .whereIn('id', [...ids])
        .select('id', 'name')
    ).map((list) => [list.id, list.name]),
  )
}

/** How much somebody follows: lists, single records, and kinds they do not hear of. */
export async function followingOf(trx: Knex, me: string): Promise<{ lists: number; records: number; kindsMuted: number }> {
  const { rows } = await trx.raw(
    `select (select count(*)::int from follow f join list l on l.id = f.list_id where f.user_id = :me and f.following and l.deleted_at is null and l.archived_at is null and role_on(l, :me) is not null) as lists,
       (select count(*)::int from follow where user_id = :me and following and list_id is null) as records,
       (select count(*)::int from muted_kind where user_id = :me) as "kindsMuted"`,
    { me } as never,
  )
  return rows[0]
}

/** Whether some changes are still to be read, or to be held against the lists. */
export async function stillReading(trx: Knex): Promise<boolean> {
  const { rows } = await trx.raw(
    'select exists (select 1 from change_due) or exists (select 1 from change where told_at is null) as reading',
  )
  return rows[0].reading
}

import type { Rhythm } from '@/core/calendar/rhythm'
import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'

/** Lists with a rhythm that somebody may work with: when each last had a round, or since when its rhythm counts. */
export async function listsWithRhythm(
  trx: Knex,
  me: string,
  zone: string,
): Promise<{ id: number; name: string; subject: Subject; rhythm: Rhythm; last: string; open: boolean }[]> {
  const { rows } = await trx.raw(
    `select l.id, l.name, l.subject, l.rhythm, to_char(coalesce((r.started_at at time zone :zone)::date, l.rhythm_from), 'YYYY-MM-DD') as last,
       r.id is not null and r.released_at is null and r.closed_at is null as open
     from list l left join lateral (select * from round where list_id = l.id and supplement = 0 order by number desc limit 1) r on true
     where l.deleted_at is null and l.archived_at is null and l.rhythm is not null and role_on(l, :me) >= 'use' order by l.name`,
    { me, zone } as never,
  )
  return rows
}

/** Rounds that wait for a step of somebody who may take it: not released yet, or released with contacts still to make; `due` are those planned up to today; `open_beside`: whether a supplement of it, or its round, still has some. */
export async function roundsWaiting(
  trx: Knex,
  me: string,
  { zone, today }: { zone: string; today: string },
): Promise<
  {
    id: number
    called: string
    list: string
    supplement: boolean
    open_beside: boolean
    subject: Subject
    released: boolean
    to_come: number
    due: number | null
  }[]
> {
  const { rows } = await trx.raw(
    `select r.id, called(r), l.name as list, l.subject, r.supplement > 0 as supplement, r.released_at is not null as released,
       exists (select 1 from round o join contact_to_come t on t.round_id = o.id and t.ended_at is null
         where o.list_id = r.list_id and o.number = r.number and o.id <> r.id) as open_beside,
       (select count(*)::int from contact_to_come t where t.round_id = r.id and t.ended_at is null and l.subject = 'person')
         + (select count(*)::int from round_letter w where w.round_id = r.id and w.posted_on is null and w.outcome is null) as to_come,
       (select (count(*) filter (where t.ended_at is null and coalesce(t.due, (r.released_at at time zone :zone)::date + 7 * (t.week - 1)) <= :today::date))::int
          from contact_to_come t where t.round_id = r.id and (t.week is not null or t.due is not null) having count(*) > 0) as due
     from round r join list l on l.id = r.list_id where r.closed_at is null and l.deleted_at is null and l.archived_at is null and role_on(l, :me) >= 'use'
     order by r.released_at nulls first, r.id limit 50`,
    { me, zone, today } as never,
  )
  return rows
}

/** The newest version of each register. */
export async function registerVersions(trx: Knex): Promise<{ name: string; version: string; good_for: number }[]> {
  const { rows } = await trx.raw(
    `select distinct on (name) name, to_char(version, 'YYYY-MM-DD') as version, good_for from register_file order by name, version desc, id desc`,
  )
  return rows
}

/** Files with rows that wait for a decision, and how many. */
export async function rowsInDoubt(trx: Knex, me: string): Promise<{ id: number; name: string; n: number }[]> {
  const { rows } = await trx.raw(
    `select b.id, b.file_name as name, count(*)::int as n from batch_row r join batch b on b.id = r.batch_id left join list l on l.id = b.list_id
     where r.outcome = 'in doubt' and b.state = 'done' and (b.list_id is null or role_on(l, :me) is not null) group by 1, 2 order by 1 desc limit 20`,
    { me } as never,
  )
  return rows
}

/** Proposals that wait on lists somebody may edit. */
export async function proposalsWaiting(trx: Knex, me: string): Promise<{ id: number; name: string; n: number }[]> {
  const { rows } = await trx.raw(
    `select l.id, l.name, count(*)::int as n from list_proposal p join list l on l.id = p.list_id
     where p.decision is null and l.deleted_at is null and l.archived_at is null and role_on(l, :me) >= 'edit' group by 1, 2 order by 2 limit 50`,
    { me } as never,
  )
  return rows
}

/** Imports that failed, of whoever began them. */
export async function failedBatches(trx: Knex, me: string): Promise<{ id: number; name: string }[]> {
  return await trx('batch').where({ actor_id: me, state: 'failed' }).orderBy('id', 'desc').limit(20).select('id', 'file_name as name')
}

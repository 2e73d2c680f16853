import type { Knex } from '@/db/connection'
import { SUBJECT_COLUMN } from './change-rows'
import type { Subject } from '@/core/records/subject'

export interface FollowedList {
  id: number
  name: string
  following: boolean
  only_follow: boolean
}

/** The lists somebody may see, with whether they follow each. */
export async function followedLists(trx: Knex, me: string): Promise<FollowedList[]> {
  const { rows } = await trx.raw(
    `select l.id, l.name, coalesce(f.following, true) as following, l.only_follow from list l left join follow f on f.list_id = l.id and f.user_id = :me
     where l.deleted_at is null and l.archived_at is null and role_on(l, :me) is not null order by l.name, l.id`,
    { me } as never,
  )
  return rows
}

export interface FollowedRecord {
  of: Subject
  id: number
  name: string
}

/** The records somebody follows by themselves. */
export async function followedRecords(trx: Knex, me: string): Promise<FollowedRecord[]> {
  const { rows } = await trx.raw(
    `select case when f.person_id is not null then 'person' when f.organisation_id is not null then 'organisation' else 'premises' end as of,
       coalesce(f.person_id, f.organisation_id, f.premises_id) as id, coalesce(p.name, o.name, q.name) as name
     from follow f left join person p on p.id = f.person_id left join organisation o on o.id = f.organisation_id left join premises q on q.id = f.premises_id
     where f.user_id = ? and f.following and f.list_id is null order by 3, 2`,
    [me],
  )
  return rows
}

/** Begins or ends following a list or a record, from an instant on and so many days back. What one followed already keeps its day. */
export async function follow(
  trx: Knex,
  me: string,
  what: { list: number } | { of: Subject; id: number },
  following: boolean,
  at: Date,
  reachDays: number,
): Promise<void> {
  const column = 'list' in what ? 'list_id' : SUBJECT_COLUMN[what.of]
  const id = 'list' in what ? what.list : what.id
  const found = await trx('follow')
    .where({ user_id: me, [column]: id })
    .forNoKeyUpdate()
    .first('id', 'following')
  if (!found) await trx('follow').insert({ user_id: me, [column]: id, following, since: at, reach_days: reachDays })
  else if (found.following !== following)
    await trx('follow')
      .where({ id: found.id })
      .update({ following, ...(following ? { since: at, reach_days: reachDays } : {}) })
}

/** Whether a colleague follows this record by itself. Following through a list is not looked at. */
export async function isFollowed(trx: Knex, me: string, of: Subject, id: number): Promise<boolean> {
  return (
    (await trx('follow')
      .where({ user_id: me, [SUBJECT_COLUMN[of]]: id, following: true })
      .first('id')) !== undefined
  )
}

/** Sets how many days back a newly followed list reaches for a colleague. `nothing` is an empty set, for whoever never looked. */
export async function setReach(trx: Knex, me: string, days: number, at: Date, nothing: Buffer): Promise<void> {
  await trx('change_look').insert({ user_id: me, at, unhandled: nothing, reach_days: days }).onConflict('user_id').merge(['reach_days'])
}

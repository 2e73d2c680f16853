import { FIELD } from '@/core/clean/standard-fields'
import type { Move } from '@/core/contact/shared-past'
import type { OwnTie } from '@/core/contact/ties'
import type { Knex } from '@/db/connection'

/** A person and the records merged into them: whatever is known of one is known of all. */
const WHOLE = `select id from person where id = :person or merged_into = :person`

/** Contacts of colleagues with somebody: each colleague with each kind of contact, how often, and the last day (in a zone). */
export async function contactsByColleague(
  trx: Knex,
  person: number,
  zone: string,
): Promise<{ user: string; name: string; kind: 'met' | 'spoke with' | 'wrote to'; times: number; last: string }[]> {
  const { rows } = await trx.raw(
    `select e.actor_id as user, u.name, k.kind, count(*)::int as times, to_char(max(e.at) at time zone :zone, 'YYYY-MM-DD') as last
     from entry e join "user" u on u.id = e.actor_id and u.left_at is null
       cross join lateral (select case when e.channel = 'met' then 'met' when e.result in ('spoke', 'meeting set', 'replied', 'not interested') then 'spoke with' else 'wrote to' end as kind) k
     where e.kind = 'contact' and e.person_id in (${WHOLE}) and (k.kind <> 'wrote to' or e.channel in ('email', 'post', 'direct', 'public reply'))
       and not exists (select 1 from entry r where r.reverses_id = e.id)
     group by 1, 2, 3`,
    { person, zone } as never,
  )
  return rows
}

/** What colleagues say of themselves: that they know somebody. */
export async function saidToKnow(
  trx: Knex,
  person: number,
  zone: string,
): Promise<{ user: string; name: string; how: OwnTie; day: string }[]> {
  const { rows } = await trx.raw(
    `select distinct on (a.user_id) a.user_id as user, u.name, a.how, to_char(a.recorded_at at time zone :zone, 'YYYY-MM-DD') as day
     from acquaintance a join "user" u on u.id = a.user_id and u.left_at is null where a.ended_at is null and a.person_id in (${WHOLE}) order by a.user_id, a.id desc`,
    { person, zone } as never,
  )
  return rows
}

/** People outside who know somebody, with the colleagues who dealt with them or say that they know them, and when that was last. */
export async function knownOutside(
  trx: Knex,
  person: number,
  zone: string,
): Promise<{ id: number; name: string; how: OwnTie; colleagues: { user: string; name: string; last: string }[] | null }[]> {
  const { rows } = await trx.raw(
    `with pair as (select case when a.person_id in (${WHOLE}) then a.other_id else a.person_id end as other, a.how from acquaintance a
       where a.ended_at is null and a.other_id is not null and (a.person_id in (${WHOLE}) or a.other_id in (${WHOLE}))),
     known as (select distinct on (coalesce(p.merged_into, p.id)) coalesce(p.merged_into, p.id) as id, pair.how from pair join person p on p.id = pair.other order by 1)
     select p.id, p.name, k.how,
       (select jsonb_agg(jsonb_build_object('user', x.user_id, 'name', u.name, 'last', to_char(x.last at time zone :zone, 'YYYY-MM-DD')) order by x.last desc)
        from (select user_id, max(at) as last from (
            select e.actor_id as user_id, e.at from entry e where e.kind = 'contact' and e.person_id = p.id and (e.channel = 'met' or e.result in ('spoke', 'meeting set', 'replied'))
            union all select a.user_id, a.recorded_at from acquaintance a where a.person_id = p.id and a.user_id is not null and a.ended_at is null) both_ways
          group by 1) x join "user" u on u.id = x.user_id and u.left_at is null) as colleagues
     from known k join person p on p.id = k.id where p.state = 'live' order by p.sort_key, p.id`,
    { person, zone } as never,
  )
  return rows
}

/** When somebody went from one organisation to another, by what changes say; the day their record came in, where they are now, and what they say of before. */
export async function movesOf(
  trx: Knex,
  person: number,
  zone: string,
): Promise<{ moves: Move[]; first: string; now: string | null; earlier: string | null } | null> {
  const { rows } = await trx.raw(
    `select to_char(p.created_at at time zone :zone, 'YYYY-MM-DD') as first, o.name as now, p.custom ->> '${FIELD.earlier}' as earlier,
       (select coalesce(jsonb_agg(jsonb_build_object('from', coalesce(fv.after, v.before), 'to', v.after, 'when', jsonb_build_object('after', c.after_day, 'by', c.by_day)) order by c.by_day), '[]')
        from change c join entry e on e.id = c.entry_id left join entry_value v on v.id = e.value_id left join entry fe on fe.id = c.from_entry left join entry_value fv on fv.id = fe.value_id
        where c.person_id = p.id and c.field = 'organisation' and c.gone_at is null and c.sure <> 'to be confirmed') as moves
     from person p left join organisation o on o.id = p.organisation_id where p.id = :person`,
    { person, zone } as never,
  )
  return rows[0] ?? null
}

export interface OwnPostRow {
  id: number
  user_id: string
  name: string
  organisation: string
  from_day: string
  to_day: string | null
}

/** Where colleagues worked before: everybody's, or one person's. */
export async function ownPosts(trx: Knex, user: string | null = null): Promise<OwnPostRow[]> {
  return await trx('own_post as o')
    .join('user as u', 'u.id', 'o.user_id')
    .whereNull('u.left_at')
    .modify((query) => user !== null && query.where('o.user_id', user))
    .orderBy(['o.from_day', 'o.id'])
    .select('o.id', 'o.user_id', 'u.name', 'o.organisation', 'o.from_day', 'o.to_day')
}

/** Inserts an organisation where a colleague worked, for the shared past. */
export async function insertOwnPost(
  trx: Knex,
  post: { user_id: string; organisation: string; from_day: string; to_day: string | null },
): Promise<void> {
  await trx('own_post').insert(post)
}

/** Deletes a post of somebody's own. Gives how many that were. */
export async function deleteOwnPost(trx: Knex, id: number, user: string): Promise<number> {
  return await trx('own_post').where({ id, user_id: user }).delete()
}

/** Records that a colleague, or somebody outside, knows a person; what was said of the pair before ends. */
export async function writeAcquaintance(
  trx: Knex,
  of: { person: number; user: string } | { person: number; other: number },
  how: OwnTie | null,
  by: string,
  at: Date,
): Promise<void> {
  const pair =
    'user' in of
      ? { person_id: of.person, user_id: of.user }
      : { person_id: Math.min(of.person, of.other), other_id: Math.max(of.person, of.other) }
  // Two who say something of the same people take turns.
  await trx('person').whereIn('id', Object.values(of).filter(Number.isInteger)).orderBy('id').forNoKeyUpdate().select('id')
  await trx('acquaintance').where(pair).whereNull('ended_at').update({ ended_at: at })
  if (how !== null) await trx('acquaintance').insert({ ...pair, how, recorded_by: by, recorded_at: at })
}

export interface IntroductionRow {
  id: number
  person_id: number
  person: string
  asked_by: string
  asked_by_name: string
  asked_of: string
  asked_of_name: string
  through_id: number | null
  through: string | null
  note: string | null
  asked_at: Date
  state: 'asked' | 'accepted' | 'declined' | 'taken back'
  answer: string | null
  answered_at: Date | null
}

const introductions = (trx: Knex) =>
  trx('introduction as i')
    .join('person as w', 'w.id', 'i.person_id')
    // Whoever was merged meanwhile is the record that goes on.
    .joinRaw('join person as p on p.id = coalesce(w.merged_into, w.id)')
    .join('user as b', 'b.id', 'i.asked_by')
    .join('user as o', 'o.id', 'i.asked_of')
    .leftJoin('person as t', 't.id', 'i.through_id')
    .select(
      'i.id',
      'p.id as person_id',
      'p.name as person',
      'i.asked_by',
      'b.name as asked_by_name',
      'i.asked_of',
      'o.name as asked_of_name',
      'i.through_id',
      't.name as through',
      'i.note',
      'i.asked_at',
      'i.state',
      'i.answer',
      'i.answered_at',
    )

/** The introductions to somebody that were asked for, the newest first. */
export async function introductionsTo(trx: Knex, person: number): Promise<IntroductionRow[]> {
  return await introductions(trx)
    .whereRaw('i.person_id in (select id from person where id = ? or merged_into = ?)', [person, person])
    .orderBy('i.id', 'desc')
}

/** Introductions a colleague is asked for and has not answered, to people who are in the directory, the oldest first. */
export async function introductionsAsked(trx: Knex, of: string): Promise<IntroductionRow[]> {
  return await introductions(trx).where({ 'i.asked_of': of, 'i.state': 'asked', 'p.state': 'live' }).orderBy('i.id')
}

/** Inserts a request for an introduction and returns its id; null where the same colleague was already asked and has not answered. */
export async function insertIntroduction(
  trx: Knex,
  row: { person_id: number; asked_by: string; asked_of: string; through_id: number | null; note: string | null; asked_at: Date },
): Promise<number | null> {
  const [made] = await trx('introduction')
    .insert(row)
    .onConflict(trx.raw(`(person_id, asked_by, asked_of) where state = 'asked'`))
    .ignore()
    .returning('id')
  return made?.id ?? null
}

/** Ends the introductions that somebody who leaves the team asked for or was asked for. */
export async function endIntroductionsOf(trx: Knex, user: string, at: Date): Promise<void> {
  await trx('introduction')
    .where({ state: 'asked' })
    .where((query) => query.where({ asked_of: user }).orWhere({ asked_by: user }))
    .update({ state: 'taken back', answered_at: at })
}

/** Locks a request for an introduction and returns it; undefined where there is none. */
export async function lockIntroduction(trx: Knex, id: number) {
  if (!Number.isSafeInteger(id)) return undefined
  return await trx('introduction').where({ id }).forUpdate().first('id', 'person_id', 'asked_by', 'asked_of', 'state')
}

/** Writes the answer to a request for an introduction, with its entry where it was accepted. */
export async function updateIntroduction(
  trx: Knex,
  id: number,
  to: { state: string; answer: string | null; answered_at: Date; entry_id: number | null },
): Promise<void> {
  await trx('introduction').where({ id }).update(to)
}

import type { Channel } from '@/core/records/channels'
import type { SharedBecause, SharingHow, ToShare } from '@/core/rounds/share-out'
import { ANSWERS } from '@/core/records/results'
import type { Knex } from '@/db/connection'
import { insertRows } from '@/db/insert-rows'

/** The record behind a person of a round and those merged into it. */
const FAMILY = '(select w.id union all select x.id from person x where x.merged_into = w.id)'

/** The colleagues among whom contacts of a list can be shared out: those who may use it. */
export async function colleaguesOfList(trx: Knex, list: number): Promise<{ id: string; name: string; post: string }[]> {
  const { rows } = await trx.raw(
    `select u.id, u.name, u.post from "user" u, list l where l.id = ? and u.left_at is null and role_on(l, u.id) in ('use', 'edit') order by u.name, u.id`,
    [list],
  )
  return rows
}

/**
 * Everybody a released round contacts by a channel, in the order of their names, with which of some colleagues know them or had them last. An
 * email or letter that nobody answered tells only who sent it to everybody.
 */
export async function peopleToShare(
  trx: Knex,
  round: number,
  channel: Channel,
  colleagues: readonly string[],
): Promise<(Omit<ToShare, 'territory'> & { postcode: string | null })[]> {
  const { rows } = await trx.raw(
    `select c.person_id as person, coalesce('o' || w.organisation_id, 'p' || w.id) as "group",
       array(select distinct a.user_id from ${FAMILY} f join acquaintance a on a.person_id = f.id
         where a.ended_at is null and a.user_id = any(:colleagues::text[]) order by 1) as knows,
       coalesce(w.postcode, (select o.postcode from organisation o where o.id = w.organisation_id)) as postcode,
       (select e.actor_id from ${FAMILY} f join entry e on e.person_id = f.id
         where e.kind = 'contact' and e.actor_id = any(:colleagues::text[]) and (e.channel in ('phone', 'met', 'public reply') or e.result = any(:answers::text[]))
           and not exists (select 1 from entry r where r.reverses_id = e.id)
         order by e.at desc, e.id desc limit 1) as had
     from round_channel c join round_member m using (round_id, person_id) join person p on p.id = c.person_id join person w on w.id = coalesce(p.merged_into, p.id)
     where c.round_id = :round and c.channel = :channel and c.closed_by is null
     order by m.card ->> 'sort', c.person_id`,
    { round, channel, colleagues: [...colleagues], answers: [...ANSWERS] } as never,
  )
  return rows
}

/** Writes how the contacts of a channel are shared out, in place of how they were. */
export async function writeShares(
  trx: Knex,
  sharing: { round: number; channel: Channel; how: SharingHow; by: string; at: Date },
  shared: ReadonlyMap<number, { colleague: string; because: SharedBecause }>,
): Promise<void> {
  const { round, channel, how, by, at } = sharing
  await deleteShares(trx, round, channel)
  await trx('round_sharing').insert({ round_id: round, channel, how: JSON.stringify(how), shared_by: by, shared_at: at })
  await insertRows(
    trx,
    'round_share',
    { round_id: 'bigint', channel: 'text', person_id: 'bigint', user_id: 'text', because: 'text' },
    [...shared].map(([person_id, { colleague, because }]) => ({ round_id: round, channel, person_id, user_id: colleague, because })),
  )
}

/** Deletes how the contacts of a channel were shared out and returns how many parts that were. */
export async function deleteShares(trx: Knex, round: number, channel: Channel): Promise<number> {
  return await trx('round_sharing').where({ round_id: round, channel }).delete()
}

/** How contacts of a round are shared out: each colleague of each channel with how many they have, and how many of those are still to be made. */
export async function sharesOfRound(
  trx: Knex,
  round: number,
): Promise<{ channel: Channel; id: string; name: string; people: number; open: number; by: string | null; at: Date }[]> {
  const { rows } = await trx.raw(
    `select s.channel, s.user_id as id, u.name || case when u.left_at is null then '' else ' (left)' end as name, count(*)::int as people,
       (count(*) filter (where t.ended_at is null and t.person_id is not null))::int as open, b.name as by, g.shared_at as at
     from round_share s join round_sharing g using (round_id, channel) join "user" u on u.id = s.user_id left join "user" b on b.id = g.shared_by
       left join contact_to_come t using (round_id, person_id, channel)
     where s.round_id = ? group by s.channel, s.user_id, u.name, u.left_at, b.name, g.shared_at order by u.name, s.user_id`,
    [round],
  )
  return rows
}

/** How the contacts of a round were shared out, by channel. */
export async function sharingsOf(trx: Knex, round: number): Promise<{ channel: Channel; how: SharingHow }[]> {
  return await trx('round_sharing').where({ round_id: round }).orderBy('channel').select('channel', 'how')
}

/** Whom a colleague has of a channel. */
export async function peopleOfShare(trx: Knex, round: number, channel: Channel, colleague: string): Promise<number[]> {
  const rows = await trx('round_share').where({ round_id: round, channel, user_id: colleague }).select('person_id')
  return rows.map((row) => row.person_id)
}

/** What a colleague has to contact in rounds that are out, of lists they may still use: how many are due by a day (YYYY-MM-DD), by round and channel. */
export async function sharesOfColleague(
  trx: Knex,
  colleague: string,
  today: string,
): Promise<{ round: number; list: number; called: string; name: string; channel: Channel; open: number }[]> {
  const { rows } = await trx.raw(
    `select s.round_id as round, r.list_id as list, called(r), l.name, s.channel, count(*)::int as open
     from round_share s join round r on r.id = s.round_id and r.closed_at is null join list l on l.id = r.list_id and l.deleted_at is null
       join contact_to_come t using (round_id, person_id, channel)
     where s.user_id = ? and role_on(l, s.user_id) in ('use', 'edit') and t.ended_at is null and (t.due is null or t.due <= ?::date) group by s.round_id, r.id, l.name, s.channel order by s.round_id, s.channel`,
    [colleague, today],
  )
  return rows
}

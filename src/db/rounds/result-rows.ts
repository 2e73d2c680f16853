import type { Worked } from '@/core/rounds/results'
import type { Knex } from '@/db/connection'
import type { RoundRow } from './round-rows'

/**
 * Everybody who was released in a round, in the order in which people are shown, with what was done. Contacts of the round count, and
 * those of no round that came after it was released and before another round released the same person. What was taken back does not. Of
 * two records that were merged, a contact counts for the one whose contact to come it made good.
 */
export async function workedIn(trx: Knex, { id: round, released_at, supplement }: RoundRow): Promise<Worked[]> {
  const { rows } = await trx.raw<{ rows: Omit<Worked, 'supplement'>[] }>(
    `with member as materialized (
       select m.person_id, coalesce(p.merged_into, p.id) as root, m.why, m.card ->> 'sort' as sort, b.file_name
       from round_member m join person p on p.id = m.person_id left join batch b on b.id = p.batch_id
       where m.round_id = :round and exists (select 1 from round_channel c where c.round_id = m.round_id and c.person_id = m.person_id and c.closed_by is null)),
     whole as materialized (
       select person_id, root as id from member union select person_id, person_id from member
       union select m.person_id, q.id from member m join person q on q.merged_into = m.root),
     released as materialized (
       select c.person_id, jsonb_agg(jsonb_build_object('channel', c.channel, 'stopped', t.stopped_by is not null) order by c.channel) as channels
       from round_channel c left join contact_to_come t using (round_id, person_id, channel)
       where c.round_id = :round and c.closed_by is null group by c.person_id),
     later as materialized (
       select w.person_id, min(r.released_at) as at from whole w join round_channel c on c.person_id = w.id and c.closed_by is null
         join round r on r.id = c.round_id and r.released_at > :released group by w.person_id),
     good as materialized (select entry_id, person_id from contact_to_come where round_id = :round and entry_id is not null and not spared),
     made as materialized (
       select w.person_id, jsonb_agg(jsonb_build_object('id', e.id, 'channel', e.channel, 'result', e.result, 'by', coalesce(u.name, 'Somebody who left'), 'at', e.at) order by e.at, e.id) as contacts
       from whole w join entry e on e.person_id = w.id and e.kind = 'contact' left join later l on l.person_id = w.person_id
         left join good g on g.entry_id = e.id left join "user" u on u.id = e.actor_id
       where (e.round_id = :round or (e.round_id is null and e.at >= :released and (l.at is null or e.at < l.at)))
         and (g.person_id is null or g.person_id = w.person_id)
         and not exists (select 1 from entry x where x.reverses_id = e.id)
       group by w.person_id)
     select m.person_id as person, m.why as line, m.file_name as file, k.name as opener, r.channels, coalesce(d.contacts, '[]') as contacts
     from member m join released r using (person_id) left join made d using (person_id)
       left join round_opener o on o.round_id = :round and o.person_id = m.person_id
       left join change c on c.id = o.change_id left join change_kind k on k.id = c.kind_id
     order by m.sort, m.person_id`,
    { round, released: released_at } as never,
  )
  return rows.map((row) => ({ ...row, supplement: supplement === 0 ? 'The round itself' : `Supplement ${supplement}` }))
}

/** What rounds had come to when they were closed. */
export async function closingsOf<Figures>(trx: Knex, rounds: readonly number[]): Promise<Map<number, Figures>> {
  const rows = await trx('round_closing').whereIn('round_id', rounds).select('round_id', 'figures')
  return new Map(rows.map(({ round_id, figures }) => [round_id, figures]))
}

/** Keeps the figures a round was closed with. They never change afterwards. */
export async function insertClosing(trx: Knex, round: number, figures: object): Promise<void> {
  await trx('round_closing').insert({ round_id: round, figures: JSON.stringify(figures) })
}

/** The rounds of a list that were released, or those before the one of a number, the newest first; no supplements. */
export async function releasedRounds(trx: Knex, list: number, most: number, before: number | null = null): Promise<RoundRow[]> {
  return await trx('round')
    .where({ list_id: list, supplement: 0 })
    .modify((query) => before !== null && query.where('number', '<', before))
    .whereNotNull('released_at')
    .orderBy('number', 'desc')
    .limit(most)
}

/** Of some people those who are in the directory, merged ones as the record that stays. */
export async function stillThere(trx: Knex, people: readonly number[]): Promise<number[]> {
  const { rows } = await trx.raw<{ rows: { id: number }[] }>(
    `select distinct r.id from person p join person r on r.id = coalesce(p.merged_into, p.id) and r.state = 'live' where p.id = any(?::bigint[])`,
    [[...people]] as never,
  )
  return rows.map(({ id }) => id)
}

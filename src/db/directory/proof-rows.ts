import type { Channel, Way } from '@/core/records/channels'
import type { Reason, Scope } from '@/core/records/suppression'
import type { Evidence } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'
import { seenBy } from '@/db/lists/list-rows'
import type { Recipient } from '@/core/rounds/letter-choice'
import type { Knex } from '@/db/connection'

/** Contacts of some records between two instants, with the round each was made in and how they stood there. */
export async function contactsBetween(
  trx: Knex,
  people: readonly number[],
  from: Date,
  until: Date,
): Promise<
  {
    at: Date
    channel: Way
    result: string | null
    by: string | null
    round: number | null
    sent_to: { value: string } | null
    file: string | null
  }[]
> {
  const { rows } = await trx.raw(
    `select e.at, e.channel, e.result, u.name as by, e.round_id as round, c.sent_to, b.file_name as file
     from entry e left join "user" u on u.id = e.actor_id left join batch b on b.id = e.batch_id
       left join round_channel c on c.round_id = e.round_id and c.person_id = any(?::bigint[]) and c.channel = e.channel and c.sent_to is not null
     where e.person_id = any(?::bigint[]) and e.kind = 'contact' and e.at >= ? and e.at < ? and not exists (select 1 from entry r where r.reverses_id = e.id)
     order by e.at, e.id`,
    [[...people], [...people], from, until] as never,
  )
  return rows
}

export interface SeatThen {
  round: number
  called: string
  list: string
  edition: number
  released_at: Date
  closed_at: Date | null
  as_of: Date
  rules: Rule[]
  policy: string | null
  policy_edition: number | null
  why: string
  held_by: string | null
  released_by: string | null
  channels: { channel: Channel; sent_to: { value: string } | null; closed_by: string | null; evidence: Evidence | null }[]
  through: { channel: Channel; reason: string; by: string | null }[]
}

/** A list somebody may not see is told without its name and its line. */
const SEEN = (value: string, instead: string) => `case when ${seenBy('l')} then ${value} else '${instead}' end`

/** The seats of some records in rounds that were released before an instant and not closed before another. */
export async function seatsBetween(trx: Knex, people: readonly number[], from: Date, until: Date, actorId: string): Promise<SeatThen[]> {
  const { rows } = await trx.raw(
    `select r.id as round, called(r), ${SEEN('l.name', 'a private list')} as list, ed.number as edition, r.released_at, r.closed_at, r.as_of, r.rules, p.name as policy, pe.number as policy_edition,
       ${SEEN('m.why', 'a line of it')} as why, m.held_by, u.name as released_by,
       (select jsonb_agg(jsonb_build_object('channel', c.channel, 'sent_to', c.sent_to, 'closed_by', c.closed_by, 'evidence', c.evidence)) from round_channel c where c.round_id = r.id and c.person_id = m.person_id) as channels,
       coalesce((select jsonb_agg(jsonb_build_object('channel', t.channel, 'reason', t.reason, 'by', tu.name)) from let_through t left join "user" tu on tu.id = t.actor_id
         where t.round_id = r.id and t.person_id = m.person_id and t.taken_back_at is null), '[]') as through
     from round_member m join round r on r.id = m.round_id join list l on l.id = r.list_id join edition ed on ed.id = r.edition_id
       left join policy_edition pe on pe.id = r.policy_edition_id left join policy p on p.id = pe.policy_id left join "user" u on u.id = r.released_by
     where m.person_id = any(?::bigint[]) and r.released_at < ? and (r.closed_at is null or r.closed_at >= ?) order by r.released_at, r.id`,
    [actorId, actorId, [...people], until, from] as never,
  )
  return rows
}

/** A letter to premises that named somebody. */
export interface LetterThen {
  round: number
  called: string
  list: string
  letter: number
  addressee: string
  street: string | null
  town: string | null
  postcode: string | null
  country: string | null
  about: string
  to: Recipient
  released_at: Date
  released_by: string | null
}

/** The letters of rounds of premises that name some records, of rounds that were released before an instant and not closed before another. */
export async function lettersBetween(
  trx: Knex,
  people: readonly number[],
  from: Date,
  until: Date,
  actorId: string,
): Promise<LetterThen[]> {
  const { rows } = await trx.raw(
    `select r.id as round, called(r), ${SEEN('l.name', 'a private list')} as list, w.number as letter, w.addressee, w.street, w.town, w.postcode, w.country, w.about,
       r.letters ->> 'to' as "to", r.released_at, u.name as released_by
     from round_letter w join round r on r.id = w.round_id join list l on l.id = r.list_id left join "user" u on u.id = r.released_by
     where w.people && ?::bigint[] and r.released_at < ? and (r.closed_at is null or r.closed_at >= ?) order by r.released_at, r.id, w.number`,
    [actorId, [...people], until, from] as never,
  )
  return rows
}

export interface SuppressionThen {
  reason: Reason
  scope: Scope
  channels: Channel[]
  since: Date
  until: Date | null
  word: string
  recorded_at: Date
  by: string | null
}

/** The suppressions that held some records at an instant, as they were known then. */
export async function suppressionsAt(trx: Knex, people: readonly number[], at: Date): Promise<SuppressionThen[]> {
  const { rows } = await trx.raw(
    `select s.reason, s.scope, s.channels, s.since, s.until, s.word, s.recorded_at, u.name as by from suppression s left join "user" u on u.id = s.actor_id
     where s.id in (select suppression_id from suppression_touch where person_id = any(?::bigint[])) and s.recorded_at <= ? and s.since <= ? and (s.until is null or s.until > ?)
       and not exists (select 1 from suppression_lift l where l.suppression_id = s.id and l.at <= ? and not exists (select 1 from suppression_lift_back b where b.lift_id = l.id and b.at <= ?))
     order by s.since, s.id`,
    [[...people], at, at, at, at, at] as never,
  )
  return rows
}

/** Where what is known of some records came from: each row of a file, and where addresses came with it. */
export async function sourcesUntil(
  trx: Knex,
  people: readonly number[],
  until: Date,
): Promise<{ file: string; row_no: number; at: Date; source: string | null; by: string | null }[]> {
  const { rows } = await trx.raw(
    `select b.file_name as file, r.row_no, b.created_at as at, q.source, u.name as by from batch_row r join batch b on b.id = r.batch_id
       left join enquiry q on q.batch_id = b.id left join "user" u on u.id = b.actor_id
     where r.person_id = any(?::bigint[]) and b.created_at < ? order by b.id, r.row_no limit 200`,
    [[...people], until] as never,
  )
  return rows
}

import type { Channel, Way } from '@/core/records/channels'
import type { Reason } from '@/core/records/suppression'
import type { ScreeningFigures } from '@/core/screening/account'
import type { Rule } from '@/core/screening/rules'
import type { Knex } from '@/db/connection'
import { seenBy } from '@/db/lists/list-rows'

/** What rules did in the rounds that were released since an instant. */
export async function roundsSince(trx: Knex, since: Date): Promise<{ rules: Rule[]; figures: ScreeningFigures; policy: string | null }[]> {
  const { rows } = await trx.raw(
    `select r.rules, r.figures -> 'screening' as figures, p.name as policy from round r left join policy_edition e on e.id = r.policy_edition_id
       left join policy p on p.id = e.policy_id where r.released_at >= ? and r.figures -> 'screening' is not null order by r.released_at`,
    [since],
  )
  return rows
}

/** The first 500 of `of` contacts that a final suppression stopped and that a file somebody took names, as far as nobody carried them yet. */
export async function notCarried(
  trx: Knex,
  actorId: string,
): Promise<
  {
    round: number
    called: string
    list: string
    person: number
    name: string
    channel: Channel
    recorded_at: Date
    country: string | null
    taken: string[]
    of: number
  }[]
> {
  const { rows } = await trx.raw(
    `select t.round_id as round, called(r), case when ${seenBy('l')} then l.name else 'a private list' end as list, t.person_id as person, p.name, t.channel, s.recorded_at,
       case when t.channel = 'phone' then a.country else coalesce(p.custom ->> '-10', o.details ->> '-30') end as country,
       array_agg(distinct coalesce(u.name, 'somebody who left')) as taken, count(*) over ()::int as of
     from contact_to_come t join suppression s on s.id = t.stopped_by join round r on r.id = t.round_id join list l on l.id = r.list_id join person p on p.id = t.person_id
       left join organisation o on o.id = p.organisation_id
       join round_channel c on c.round_id = t.round_id and c.person_id = t.person_id and c.channel = t.channel left join address a on a.id = c.address_id
       join round_file_taken f on f.round_id = t.round_id and f.channel = t.channel and t.person_id <> all(f.without) left join "user" u on u.id = f.actor_id
     where s.reason in ('opt-out', 'complaint', 'register') and p.state <> 'erased'
       and not exists (select 1 from opt_out_carried d where d.round_id = t.round_id and d.person_id = t.person_id and d.channel = t.channel and d.back_at is null)
     group by t.round_id, r.id, l.id, t.person_id, p.name, t.channel, s.recorded_at, a.country, p.custom, o.details order by s.recorded_at limit 500`,
    [actorId],
  )
  return rows
}

/** Marks an opt-out as carried to a round's receiver. Doing it twice changes nothing. */
export async function insertCarried(
  trx: Knex,
  row: { round: number; person: number; channel: string; actor: string; at: Date },
): Promise<void> {
  await trx('opt_out_carried')
    .insert({ round_id: row.round, person_id: row.person, channel: row.channel, actor_id: row.actor, at: row.at })
    .onConflict(trx.raw('(round_id, person_id, channel) where back_at is null'))
    .ignore()
}

/** Takes back that an opt-out was carried. Returns whether it stood. */
export async function takeCarriedBack(
  trx: Knex,
  row: { round: number; person: number; channel: string; actor: string; at: Date },
): Promise<boolean> {
  const changed = await trx('opt_out_carried')
    .where({ round_id: row.round, person_id: row.person, channel: row.channel, back_at: null })
    .update({ back_at: row.at, back_by: row.actor })
  return changed > 0
}

/**
 * The first 500 of `of` contacts since an instant against a suppression that was known before they were made, to be of that person, and in force then; what was let through in the
 * round of the contact is none, but for what nobody can let through.
 */
export async function breaches(
  trx: Knex,
  since: Date,
): Promise<
  { person: number; name: string; at: Date; channel: Way; by: string | null; reason: Reason; recorded_at: Date; word: string; of: number }[]
> {
  const { rows } = await trx.raw(
    `select b.*, count(*) over ()::int as of from (select distinct on (e.id) coalesce(p.merged_into, p.id) as person, p.name, e.at, e.channel, u.name as by, s.reason, s.recorded_at, s.word
     from entry e join person p on p.id = e.person_id join person w on coalesce(w.merged_into, w.id) = coalesce(p.merged_into, p.id)
       join suppression_touch t on t.person_id = w.id and (t.address_id is null or t.address_id = e.address_id)
       join suppression s on s.id = t.suppression_id left join "user" u on u.id = e.actor_id
     where e.kind = 'contact' and e.at >= ? and e.channel = any(s.channels) and s.recorded_at < e.at and s.since < e.at and (s.until is null or s.until > e.at)
       and not exists (select 1 from entry r where r.reverses_id = e.id)
       -- Known by then: records that were found to be one only later, and who came to an organisation or a household since, do not count.
       and not exists (select 1 from merge g where w.id <> p.id and g.merged_id in (w.id, p.id) and g.at > e.at and g.back_at is null)
       and not (t.address_id is null and s.person_id is null and exists (select 1 from entry c where c.person_id = e.person_id and c.kind = 'change' and c.at > e.at and c.field in ('organisation', 'post', 'street')))
       and not exists (select 1 from suppression_lift l where l.suppression_id = s.id and l.at <= e.at and not exists (select 1 from suppression_lift_back b where b.lift_id = l.id and b.at <= e.at))
       and not (s.reason not in ('opt-out', 'complaint', 'register') and exists (select 1 from let_through x where x.round_id = e.round_id and x.person_id = e.person_id and x.channel = e.channel and x.at <= e.at))
     order by e.id, s.id) b order by b.at limit 500`,
    [since],
  )
  return rows
}

/** Who let how many people through since an instant, and why; `of` is how many in all rows, however many are shown. */
export async function letThroughSince(
  trx: Knex,
  since: Date,
): Promise<{ by: string | null; reason: string; people: number; last: Date; of: number }[]> {
  const { rows } = await trx.raw(
    `select u.name as by, l.reason, count(distinct l.person_id)::int as people, max(l.at) as last, sum(count(distinct l.person_id)) over ()::int as of from let_through l left join "user" u on u.id = l.actor_id
     where l.at >= ? and l.taken_back_at is null group by u.name, l.reason order by people desc, last desc limit 200`,
    [since],
  )
  return rows
}

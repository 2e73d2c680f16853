import type { Channel } from '@/core/records/channels'
import type { FileLayout } from '@/core/rounds/file-layout'
import type { Unless } from '@/core/rounds/steps'
import type { Knex } from '@/db/connection'

/**
 * Ends the contacts to come that some suppressions in force forbid, and gives them. What was let through stays, but for an opt-out, a
 * complaint or a register. A suppression of one address ends only contacts that go to it.
 */
export async function stopToCome(
  trx: Knex,
  suppressions: readonly number[],
  at: Date,
): Promise<{ round: number; list: number; person: number; channel: Channel; suppression: number }[]> {
  const { rows } = await trx.raw(
    `with held as materialized (
       select distinct on (coalesce(m.merged_into, m.id), t.address_id, s.id) coalesce(m.merged_into, m.id) as root, t.address_id, s.id, s.reason, s.channels
       from suppression_touch t join suppression_standing s on s.id = t.suppression_id join person m on m.id = t.person_id
       -- Said of what touches people as well: the database does not carry it over, and would work out whom every suppression touches.
       where t.suppression_id = any(?::bigint[]) and s.id = any(?::bigint[]) and s.since <= ? and (s.until is null or s.until > ?)),
     due as materialized (
       select distinct on (t.round_id, t.person_id, t.channel) t.round_id, t.person_id, t.channel, h.id as suppression
       from held h join person w on w.id = h.root or w.merged_into = h.root
         join contact_to_come t on t.person_id = w.id and t.ended_at is null and t.channel = any(h.channels)
         join round_channel c on c.round_id = t.round_id and c.person_id = t.person_id and c.channel = t.channel
       where (h.address_id is null or h.address_id = c.address_id)
         and not (h.reason not in ('opt-out', 'complaint', 'register') and exists (select 1 from let_through l where l.round_id = t.round_id and l.person_id = t.person_id and l.channel = t.channel and l.taken_back_at is null))
       order by t.round_id, t.person_id, t.channel, h.id)
     update contact_to_come t set ended_at = ?, stopped_by = due.suppression from due join round r on r.id = due.round_id
     -- Looked at once more under the row's lock: somebody else may have ended it meanwhile.
     where t.round_id = due.round_id and t.person_id = due.person_id and t.channel = due.channel and t.ended_at is null
     returning t.round_id as round, r.list_id as list, t.person_id as person, t.channel, t.stopped_by as suppression`,
    [[...suppressions], [...suppressions], at, at, at] as never,
  )
  return rows
}

/** The suppressions that touch some people, whether or not they are in force. */
export async function suppressionsTouching(trx: Knex, people: readonly number[]): Promise<number[]> {
  const { rows } = await trx.raw('select distinct suppression_id as id from suppression_touch where person_id = any(?::bigint[])', [
    [...people],
  ] as never)
  return rows.map((row: { id: number }) => row.id)
}

/** Of a released round by channel: how many of its contacts were stopped since, and who took a file that names one of them. */
export async function stoppedOf(
  trx: Knex,
  round: number,
): Promise<{ channel: Channel; people: number; takenBy: { name: string; at: Date }[] }[]> {
  const rows = await trx('contact_to_come')
    .where({ round_id: round })
    .whereNotNull('stopped_by')
    .groupBy('channel')
    .select('channel', trx.raw('count(*)::int as people'))
  const { rows: taken } = await trx.raw(
    `select f.channel, f.at, u.name from round_file_taken f left join "user" u on u.id = f.actor_id
     where f.round_id = ? and exists (select 1 from contact_to_come t where t.round_id = f.round_id and t.channel = f.channel and t.stopped_by is not null and t.person_id <> all(f.without))
     order by f.id`,
    [round],
  )
  return rows.map(({ channel, people }) => ({
    channel,
    people,
    takenBy: taken
      .filter((own: { channel: Channel }) => own.channel === channel)
      .map(({ name, at }: { name: string | null; at: Date }) => ({ name: name ?? 'somebody who left', at })),
  }))
}

/** Who took the file of a channel of a round, and when. */
export async function whoTook(trx: Knex, round: number, channel: Channel): Promise<{ name: string; at: Date }[]> {
  const rows = await trx('round_file_taken as f')
    .leftJoin('user as u', 'u.id', 'f.actor_id')
    .where({ round_id: round, channel })
    .orderBy('f.id')
    .select('u.name', 'f.at')
  return rows.map(({ name, at }) => ({ name: name ?? 'somebody who left', at }))
}

/** Who took a file of a round that names any of some letters, and when. */
export async function whoHas(trx: Knex, round: number, letters: readonly number[]): Promise<{ name: string; at: Date }[]> {
  if (letters.length === 0) return []
  const rows = await trx('round_file_taken as f')
    .leftJoin('user as u', 'u.id', 'f.actor_id')
    .where({ round_id: round })
    .whereRaw('not (?::bigint[] <@ f.without)', [[...letters]])
    .orderBy('f.id')
    .select('u.name', 'f.at')
  return rows.map(({ name, at }) => ({ name: name ?? 'somebody who left', at }))
}

/** Keeps who took a file of a round, how it was laid out, and who was left out of it. */
export async function insertTaken(
  trx: Knex,
  row: { round: number; channel: Channel; actor: string; at: Date; without: readonly number[]; layout?: FileLayout | null },
): Promise<void> {
  await trx('round_file_taken').insert({
    round_id: row.round,
    channel: row.channel,
    actor_id: row.actor,
    at: row.at,
    without: [...row.without],
    layout: row.layout ? JSON.stringify(row.layout) : null,
  })
}

/**
 * Of the people in the files of a released round, those who must not be contacted by that channel any more: a suppression in force forbids it,
 * or one stopped it and was lifted again; and those whom an answer spared this step. What was let through stays, but for an opt-out, a complaint or a register; and so does a number
 * that was on the register at the release and was released all the same, since an established relationship opens it. `only`: of these people.
 */
export async function leftOutOf(
  trx: Knex,
  round: number,
  at: Date,
  only: readonly number[] | null = null,
): Promise<{ channel: Channel; person: number }[]> {
  // What touches them is worked out once: asked of each of them anew it takes minutes.
  const { rows } = await trx.raw(
    `with named as materialized (
       select c.channel, c.person_id, c.address_id, coalesce(p.merged_into, p.id) as root from round_channel c join person p on p.id = c.person_id
       where c.round_id = ? and c.sent_to is not null and c.closed_by is null${only ? ' and c.person_id = any(?::bigint[])' : ''}),
     family as materialized (
       select distinct w.id, n.root from (select distinct root from named) n
         cross join lateral (select n.root as id union all select m.id from person m where m.merged_into = n.root) w),
     held as materialized (
       select distinct f.root, t.address_id, s.reason, s.channels, s.recorded_at from suppression_touch t
         join suppression_standing s on s.id = t.suppression_id join family f on f.id = t.person_id
       where t.person_id = any(array(select id from family)) and s.since <= ? and (s.until is null or s.until > ?))
     select distinct n.channel, n.person_id as person from named n join held h on h.root = n.root, round r
     where r.id = ? and n.channel = any(h.channels) and (h.address_id is null or h.address_id = n.address_id)
       and (h.reason <> 'register' or h.recorded_at > r.released_at)
       and not (h.reason not in ('opt-out', 'complaint', 'register')
         and exists (select 1 from let_through l where l.round_id = r.id and l.person_id = n.person_id and l.channel = n.channel and l.taken_back_at is null))
     union select t.channel, t.person_id from contact_to_come t join named n on n.person_id = t.person_id and n.channel = t.channel
     where t.round_id = ? and (t.stopped_by is not null or t.spared)
     order by 1, 2`,
    [round, ...(only ? [[...only]] : []), at, at, round, round] as never,
  )
  return rows
}

/** Of some people of a released round, the suppression that stopped each, the first where there are several. */
export async function stoppedBy(trx: Knex, round: number, people: readonly number[]): Promise<Map<number, number>> {
  const rows = await trx('contact_to_come')
    .where({ round_id: round })
    .whereRaw('person_id = any(?::bigint[])', [[...people]])
    .whereNotNull('stopped_by')
    .orderBy('stopped_by', 'desc')
    .select('person_id', 'stopped_by')
  return new Map(rows.map((row) => [row.person_id, row.stopped_by]))
}

/** The channels by which a round contacted somebody already. */
export async function madeBy(trx: Knex, round: number, person: number): Promise<string[]> {
  const rows = await trx('contact_to_come')
    .where({ round_id: round, person_id: person, spared: false })
    .whereNotNull('entry_id')
    .select('channel')
  return rows.map((row) => row.channel)
}

/** One contact of a round that is still to be made: where it goes. */
export async function contactDue(
  trx: Knex,
  round: number,
  person: number,
  channel: string,
): Promise<
  | {
      address_id: number
      sent_to: { value: string }
      ended_at: Date | null
      stopped_by: number | null
      spared: boolean
      due: string | null
      unless: Unless | null
    }
  | undefined
> {
  return await trx('round_channel as c')
    .join('contact_to_come as t', (on) =>
      on.on('t.round_id', 'c.round_id').andOn('t.person_id', 'c.person_id').andOn('t.channel', 'c.channel'),
    )
    .where({ 'c.round_id': round, 'c.person_id': person, 'c.channel': channel })
    .first(
      'c.address_id',
      'c.sent_to',
      't.ended_at',
      't.stopped_by',
      't.spared',
      't.unless',
      trx.raw(`to_char(t.due, 'YYYY-MM-DD') as due`),
    )
}

/** Facts of some people that changed since an instant and that somebody should know of before they are contacted, the latest of each. */
export async function changedLately(
  trx: Knex,
  people: readonly number[],
  since: Date,
): Promise<{ person_id: number; field: string; at: Date; before: string | null; after: string | null }[]> {
  const { rows } = await trx.raw(
    `select distinct on (e.person_id, e.field) e.person_id, e.field, e.at, v.before, v.after from entry e left join entry_value v on v.id = e.value_id
     where e.person_id = any(?::bigint[]) and e.kind = 'change' and e.field in ('role', 'organisation') and e.at >= ? and v.before is not null
       and not exists (select 1 from entry r where r.reverses_id = e.id)
     order by e.person_id, e.field, e.at desc, e.id desc`,
    [[...people], since] as never,
  )
  return rows
}

import { datePlusDays } from '@/core/calendar/local-day'
import type { Channel } from '@/core/records/channels'
import { SPARED_BY } from '@/core/rounds/steps'
import type { RoundPage } from '@/core/views/round-views'
import type { Knex } from '@/db/connection'

/** Returns the contacts to come of a round. */
export async function openToCome(trx: Knex, roundId: number) {
  return await trx('contact_to_come').where({ round_id: roundId }).whereNull('ended_at').select('person_id', 'channel')
}

/** Ends the contacts to come of a round, so that none of them is made any more. */
export async function endToCome(trx: Knex, roundId: number, at: Date) {
  return await trx('contact_to_come').where({ round_id: roundId }).whereNull('ended_at').update({ ended_at: at })
}

/** Returns the contacts to come of people in any round, with whom they were merged into. */
export async function toComeOf(trx: Knex, people: number[]) {
  const { rows } = await trx.raw(
    `select t.round_id, t.person_id, coalesce(p.merged_into, p.id) as root, t.channel, t.since, c.address_id from contact_to_come t join person p on p.id = t.person_id
       left join round_channel c on c.round_id = t.round_id and c.person_id = t.person_id and c.channel = t.channel
       where t.ended_at is null and (t.person_id = any(?::bigint[]) or p.merged_into = any(?::bigint[])) order by t.since desc`,
    [people, people],
  )
  return rows
}

/** Ends contacts to come by the contacts that were made. Each is ended once. */
export async function endByContacts(
  trx: Knex,
  recordedAt: Date,
  ended: { round_id: number; person_id: number; channel: string; entry_id: number }[],
) {
  return await trx.raw(
    `update contact_to_come t set ended_at = ?, entry_id = m.entry_id
       from jsonb_to_recordset(?::jsonb) as m(round_id bigint, person_id bigint, channel text, entry_id bigint)
       where t.round_id = m.round_id and t.person_id = m.person_id and t.channel = m.channel`,
    [recordedAt, JSON.stringify(ended)],
  )
}

/** Opens the contacts to come again that some contacts had made good or spared, as these are taken back; what another contact spares stays so. */
export async function reopenByContacts(trx: Knex, entries: number[], at: Date): Promise<void> {
  const { rows } = await trx.raw<{ rows: { person_id: number }[] }>(
    `update contact_to_come t set ended_at = null, entry_id = null, spared = false
     from round r where r.id = t.round_id and r.closed_at is null and t.entry_id = any(?::bigint[]) returning t.person_id`,
    [entries] as never,
  )
  await spareSteps(trx, [...new Set(rows.map((row) => row.person_id))], at)
}

/**
 * Ends the later steps of open rounds that some people are spared, since they answered or were reached after the release, in whichever way.
 * What was taken back does not count; contacts of a merged record count for the one that stays. Each names the first contact that spares it.
 */
export async function spareSteps(trx: Knex, people: readonly number[], at: Date): Promise<void> {
  // Most teams work without later steps, and a file may bring very many contacts.
  if (!(await trx('contact_to_come').whereNotNull('unless').whereNull('ended_at').first('round_id'))) return
  await trx.raw(
    `with asked as materialized (select distinct coalesce(merged_into, id) as root from person where id = any(:people::bigint[])),
     whole as materialized (select a.root, p.id from asked a join person p on p.id = a.root or p.merged_into = a.root),
     due as materialized (
       select t.round_id, t.person_id, t.channel, w.root, r.released_at, t.unless from contact_to_come t join whole w on w.id = t.person_id
         join round r on r.id = t.round_id and r.closed_at is null where t.ended_at is null and t.unless is not null),
     spares as (
       select distinct on (d.round_id, d.person_id, d.channel) d.round_id, d.person_id, d.channel, e.id from due d join whole w on w.root = d.root
         join entry e on e.person_id = w.id and e.kind = 'contact' and e.at >= d.released_at and e.result = any(array(select jsonb_array_elements_text(:results::jsonb -> d.unless)))
       where not exists (select 1 from entry x where x.reverses_id = e.id) order by d.round_id, d.person_id, d.channel, e.at, e.id)
     update contact_to_come t set ended_at = :at, entry_id = s.id, spared = true from spares s
     where t.round_id = s.round_id and t.person_id = s.person_id and t.channel = s.channel and t.ended_at is null`,
    { people: [...people], at, results: JSON.stringify(SPARED_BY) } as never,
  )
}

/** Opens the steps again that were spared some records, in rounds that are out. */
export async function unspareSteps(trx: Knex, people: readonly number[]): Promise<void> {
  await trx.raw(
    `update contact_to_come t set ended_at = null, entry_id = null, spared = false
     from round r where r.id = t.round_id and r.closed_at is null and t.spared and t.person_id = any(?::bigint[])`,
    [[...people]] as never,
  )
}

/** How many contacts a round is to make, without those that an answer spared, and how many of them are still to come. */
export async function countToCome(trx: Knex, id: number) {
  return await trx('contact_to_come')
    .where({ round_id: id })
    .first(trx.raw('(count(*) filter (where not spared))::int as "all", (count(*) filter (where ended_at is null))::int as open'))
}

/** The contacts of a round that is planned by weeks, week by week; `from` is the day of its release (YYYY-MM-DD). */
export async function weeksOfRound(trx: Knex, id: number, from: string): Promise<RoundPage['weeks']> {
  const rows: { week: number; channel: Channel; planned: number; open: number }[] = await trx('contact_to_come')
    .where({ round_id: id })
    .whereNotNull('week')
    .groupBy('week', 'channel')
    .orderBy('week')
    .select('week', 'channel', trx.raw('count(*)::int as planned'), trx.raw('(count(*) filter (where ended_at is null))::int as open'))
  const weeks = new Map<number, RoundPage['weeks'][number]>()
  for (const { week, channel, planned, open } of rows) {
    const own = weeks.get(week) ?? { week, from: datePlusDays(from, 7 * (week - 1)), by: {} }
    weeks.set(week, { ...own, by: { ...own.by, [channel]: { planned, open } } })
  }
  return [...weeks.values()]
}

/** How far the later steps of a released round are, a channel each: from which day, how many were planned, are still to make, and were spared. */
export async function stepsOfRound(
  trx: Knex,
  id: number,
): Promise<Map<Channel, { due: string; planned: number; open: number; spared: number }>> {
  const rows: { channel: Channel; due: string; planned: number; open: number; spared: number }[] = await trx('contact_to_come')
    .where({ round_id: id })
    .whereNotNull('due')
    .groupBy('channel')
    .select(
      'channel',
      trx.raw(
        `to_char(min(due), 'YYYY-MM-DD') as due, count(*)::int as planned, (count(*) filter (where ended_at is null))::int as open,
         (count(*) filter (where spared))::int as spared`,
      ),
    )
  return new Map(rows.map(({ channel, ...own }) => [channel, own]))
}

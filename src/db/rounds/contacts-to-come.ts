import { datePlusDays } from '@/core/calendar/local-day'
import type { Channel } from '@/core/records/channels'
import type { RoundPage } from '@/core/views/round-views'
import type { Knex } from '@/db/connection'

export async function openToCome(trx: Knex, roundId: number) {
  return await trx('contact_to_come').where({ round_id: roundId }).whereNull('ended_at').select('person_id', 'channel')
}

export async function endToCome(trx: Knex, roundId: number, at: Date) {
  return await trx('contact_to_come').where({ round_id: roundId }).whereNull('ended_at').update({ ended_at: at })
}

export async function toComeOf(trx: Knex, people: number[]) {
  const { rows } = await trx.raw(
    `select t.round_id, t.person_id, coalesce(p.merged_into, p.id) as root, t.channel, t.since, c.address_id from contact_to_come t join person p on p.id = t.person_id
       left join round_channel c on c.round_id = t.round_id and c.person_id = t.person_id and c.channel = t.channel
       where t.ended_at is null and (t.person_id = any(?::bigint[]) or p.merged_into = any(?::bigint[])) order by t.since desc`,
    [people, people],
  )
  return rows
}

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

export async function reopenByContacts(trx: Knex, entries: number[]) {
  return await trx.raw(
    `update contact_to_come t set ended_at = null, entry_id = null from round r where r.id = t.round_id and r.closed_at is null and t.entry_id = any(?::bigint[])`,
    [entries] as never,
  )
}

export async function countToCome(trx: Knex, id: number) {
  return await trx('contact_to_come')
    .where({ round_id: id })
    .first(trx.raw('count(*)::int as "all", (count(*) filter (where ended_at is null))::int as open'))
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

import { paged } from '@/db/paged'
import type { PeopleColumns } from '@/core/columns/people-columns'
import { db, type Knex } from '@/db/connection'
import { copyIn } from '@/db/copy-rows'
import { whoAround } from '@/db/screening/contacts-around'
import { readForRules } from '@/db/directory/read-people'
import { personRecords } from '@/db/directory/person-records'
import type { PersonView } from '@/core/views/record-views'
import { FIELD } from '@/core/clean/standard-fields'
import { MONTHS } from '@/core/screening/established'
import type { Steps } from '@/core/rounds/steps'
import type { ScreeningFigures } from '@/core/screening/account'
import type { Evidence, Seat } from '@/core/screening/kind'
import type { ScreeningView } from '@/core/views/round-views'
import { type Channel, CHANNELS } from '@/core/records/channels'

/** A table of verdicts that lasts as long as the transaction. */
export async function verdictTable(trx: Knex, name: string, rows: Iterable<unknown[]>): Promise<void> {
  const ofChannel = CHANNELS.flatMap((channel) => [`${channel}_to`, `${channel}_by`, `${channel}_evidence`])
  await trx.raw(`drop table if exists ${name}`)
  await trx.raw(
    `create temporary table ${name} (person_id bigint, held_by text, evidence jsonb, ${ofChannel.map((column, i) => `${column} ${['bigint', 'text', 'jsonb'][i % 3]}`).join(', ')}) on commit drop`,
  )
  await copyIn(trx, name, ['person_id', 'held_by', 'evidence', ...ofChannel], rows as Iterable<never[]>)
  await trx.raw(`analyze ${name}`)
}

/**
 * Those whose ids a query gives who are live, with what is known of the records that were merged into them. `around`: also everybody of
 * their organisations and households who was contacted since that instant (UTC milliseconds).
 */
export async function readFor(trx: Knex, asked: string, around: number | null): Promise<PeopleColumns> {
  const who = around === null ? asked : whoAround(asked, around)
  const columns = await readForRules(trx, who)
  const merged = await trx('person').whereRaw(`merged_into in (${who})`).distinct('merged_into')
  for (const { live, record } of await personRecords(
    trx,
    merged.map((m) => m.merged_into),
  ))
    if (live) columns.put(record)
  return columns
}

/**
 * Writes the contacts a round that was just frozen is to make. `aWeek`: of a round that is planned by weeks, so many by each channel a week,
 * null without limit; the first of the list come first. `steps`: which channels are worked later, and what spares them. `from` is the day of
 * the release (YYYY-MM-DD), from which both count.
 */
export async function writeToCome(
  trx: Knex,
  round: number,
  since: Date,
  { from, steps, aWeek }: { from: string; steps: Steps | null; aWeek: Record<Channel, number | null> | null },
): Promise<void> {
  await trx.raw(
    `insert into contact_to_come (round_id, person_id, channel, since, week, due, unless)
     select round_id, person_id, channel, :since::timestamptz, week,
       case when :weeks::jsonb is null and :steps::jsonb is null then null
         else :from::date + coalesce((:steps::jsonb -> channel ->> 'after')::int, 0) + 7 * (coalesce(week, 1) - 1)::int end,
       :steps::jsonb -> channel ->> 'unless'
     from (select c.round_id, c.person_id, c.channel, case when :weeks::jsonb is null then null
         else coalesce(1 + (row_number() over (partition by c.channel order by l.place) - 1) / nullif((:weeks::jsonb ->> c.channel)::int, 0), 1) end as week
       from round_channel c join listed l using (person_id) where c.round_id = :round and c.closed_by is null) planned`,
    {
      since,
      round,
      from,
      weeks: aWeek === null ? null : JSON.stringify(aWeek),
      steps: steps === null ? null : JSON.stringify(steps),
    } as never,
  )
}

/** What of some people was let through in a round, and is still: by which channel, why and on whose word. */
export async function letThroughBy(round: number, people: number[]): Promise<Map<number, NonNullable<PersonView['through']>['let']>> {
  const rows = await db()('let_through as l')
    .leftJoin('user as u', 'u.id', 'l.actor_id')
    .where({ 'l.round_id': round })
    .whereNull('l.taken_back_at')
    .whereIn('l.person_id', people)
    .select('l.person_id', 'l.channel', 'l.reason', 'u.name as by')
  const map = new Map<number, NonNullable<PersonView['through']>['let']>()
  for (const { person_id, ...row } of rows) map.set(person_id, [...(map.get(person_id) ?? []), { ...row, by: row.by ?? '' }])
  return map
}

/** Returns a query that is non-empty where a member `m` of the round has a channel. */
export const channelRows = (id: number) =>
  db()('round_channel as c').select(db().raw('1')).where('c.round_id', id).whereRaw('c.person_id = m.person_id')

/** Returns which of these people are on the list that is being released. */
export async function listedAmong(trx: Knex, changed: number[]) {
  return await trx('listed').whereRaw('person_id = any(?::bigint[])', [changed]).select('person_id')
}

/** Keeps how every record of the directory stood when a round was released: its line or rule as a code. */
export async function insertStanding(trx: Knex, id: number, ids: string, codes: string) {
  return await trx('round_standing').insert({
    round_id: id,
    ids: Buffer.from(ids, 'base64'),
    codes: Buffer.from(codes, 'base64'),
  })
}

/** Creates the temporary table of who is on the list, for one transaction. */
export async function createListed(trx: Knex) {
  return await trx.raw('create temporary table listed (person_id bigint primary key, place int not null, why text not null) on commit drop')
}

/** Copies who is on the list into the temporary table, with place and reason. */
export async function copyListed(trx: Knex, rows: (string | number)[][]) {
  return await copyIn(trx, 'listed', ['person_id', 'place', 'why'], rows)
}

/** Tells the planner how large the temporary table is. */
export async function analyzeListed(trx: Knex) {
  return await trx.raw('analyze listed')
}

/** Whether a date of a person (as q) lies at most so many months before a day; the same as `isEstablished`, in SQL. */
const within = (field: number, months: number) =>
  `((q.custom ->> '${field}') <= ? and (q.custom ->> '${field}')::date + interval '${months} months' >= ?::date)`

/**
 * Returns how many people of a round have a channel that a suppression catches at a moment. `touch` is SQL; `only` limits it to
 * suppressions since then and people who changed.
 */
export async function countCaught(
  trx: Knex,
  {
    touch,
    only,
    at,
    round,
    exempt,
  }: {
    touch: string
    only: { people: number[]; since: Date } | null
    at: Date
    round: number
    exempt: { countries: string[]; day: string }
  },
) {
  const { rows } = await trx.raw(
    `with held as materialized (
       select coalesce(m.merged_into, t.person_id) as person_id, t.address_id, s.reason, s.channels
       from ${touch} t join suppression_standing s on s.id = t.suppression_id join person m on m.id = t.person_id
       where s.since <= ? and (s.until is null or s.until > ?))
     select count(distinct person_id)::int as caught from (
       select c.person_id from held h cross join lateral (
         select c.* from round_channel c where c.round_id = ? and c.person_id = h.person_id and c.address_id is not null
           and (h.address_id is null or h.address_id = c.address_id) and c.channel = any(h.channels) offset 0) c
       where not (h.reason not in ('opt-out', 'complaint', 'register') and exists (select 1 from let_through l where l.round_id = c.round_id and l.person_id = c.person_id and l.channel = c.channel and l.taken_back_at is null))
         and not (h.reason = 'register' and exists (select 1 from person q join address a on a.id = c.address_id where q.id = c.person_id and a.country = any(?::text[]) and (${within(FIELD.lastPurchase, MONTHS.purchase)} or ${within(FIELD.lastInquiry, MONTHS.inquiry)})))
       union all select c.person_id from round_channel c join person p on p.id = c.person_id where c.round_id = ? and c.address_id is not null and p.state <> 'live'${only ? ' and p.id = any(?::bigint[])' : ''}) caught`,
    [
      ...(only ? [only.people, only.since, at] : []),
      at,
      at,
      round,
      exempt.countries,
      ...Array(4).fill(exempt.day),
      round,
      ...(only ? [only.people] : []),
    ] as never,
  )
  return rows
}

/** Inserts an entry of one kind for everybody whom `people` (SQL) returns. */
export async function insertEntries(
  trx: Knex,
  {
    kind,
    people,
    at,
    actorId,
    roundId,
    list,
    bindings,
  }: { kind: string; people: string; at: Date; actorId: string; roundId: number; list: number; bindings: (number | number[])[] },
) {
  return await trx.raw(
    `insert into entry (person_id, kind, at, recorded_at, actor_id, round_id, list_id, result) select p.person_id, '${kind}', ?, ?, ?, ?, ?, p.result from (${people}) p`,
    [at, at, actorId, roundId, list, ...bindings],
  )
}

/** Returns the channels of members of a round, with what closed each and the evidence. */
export async function channelsOf(trx: Knex, members: number[], id: number) {
  return await trx('round_channel')
    .where({ round_id: id })
    .whereIn('person_id', members)
    .select('person_id', 'channel', 'closed_by', 'evidence')
}

export const CARD_OF = `jsonb_build_object('name', p.name, 'given', p.given, 'family', p.family, 'role', p.role, 'organisation', o.name, 'sort', p.sort_key)`

/** Returns the SQL joins from a verdict to person and organisation. */
export const MEMBERS = (verdict: string) =>
  `from ${verdict} v join listed l using (person_id) join person p on p.id = v.person_id left join organisation o on o.id = p.organisation_id`

/** What a contact goes to; of a direct message also the way, where it is known. */
export const SENT_TO = `case when a.id is not null then jsonb_strip_nulls(jsonb_build_object('value', a.value, 'way', case when a.channel = 'direct' then p.custom ->> '${FIELD.direct}' end)) || coalesce(a.parts, '{}') end`

/** Returns the SQL that lays the channels of a verdict out, one row each. */
export const CHANNELS_OF = (verdict: string) =>
  `from ${verdict} v cross join lateral (values ${CHANNELS.map((c) => `('${c}', ${c}_to, ${c}_by, ${c}_evidence)`).join(', ')}) c(channel, address, closed_by, evidence) left join address a on a.id = c.address join person p on p.id = v.person_id`

export const CARD = ['name', 'given', 'family', 'role', 'organisation']

/** Inserts the members of a round, with the card that is frozen of each. */
export async function insertMembers(trx: Knex, round: number) {
  return await trx.raw(
    `insert into round_member (round_id, person_id, held_by, evidence, card, why) select ?, v.person_id, v.held_by, v.evidence, ${CARD_OF}, l.why ${MEMBERS('verdict')}`,
    [round],
  )
}

/** Inserts the channels of the members of a round, with the address each contact goes to. */
export async function insertChannels(trx: Knex, round: number) {
  return await trx.raw(
    `insert into round_channel (round_id, person_id, channel, address_id, sent_to, closed_by, evidence) select ?, v.person_id, c.channel, c.address, ${SENT_TO}, c.closed_by, c.evidence ${CHANNELS_OF('verdict')}`,
    [round],
  )
}

/** Tells the planner how many people the round has that was just frozen, as no statistics hold any of it yet. */
export async function measureRounds(trx: Knex): Promise<void> {
  await trx.raw('select measure_rounds()')
}

/** Returns how many members and channels differ from what the database worked out again. A release goes on only at 0. */
export async function countDiffering(trx: Knex, round: number) {
  const { rows } = await trx.raw(
    `select (select count(*) from (select v.person_id, v.held_by, ${CARD_OF} as card ${MEMBERS('again')}) n join round_member m on m.round_id = ? and m.person_id = n.person_id where (n.held_by, n.card) is distinct from (m.held_by, m.card))
       + (select count(*) from (select v.person_id, c.channel, c.address, ${SENT_TO} as sent_to, c.closed_by ${CHANNELS_OF('again')}) n join round_channel m on m.round_id = ? and m.person_id = n.person_id and m.channel = n.channel
          where (n.address, n.sent_to, n.closed_by) is distinct from (m.address_id, m.sent_to, m.closed_by)) as n`,
    [round, round],
  )
  return rows
}

/** The channels of some people that one of some rules closed, and why. */
export async function closedByAny(
  trx: Knex,
  round: number,
  people: readonly number[],
  rules: string[],
): Promise<{ person_id: number; channel: Channel; rule: string; evidence: Evidence }[]> {
  return await trx('round_channel')
    .where({ round_id: round })
    .whereRaw('person_id = any(?::bigint[])', [[...people]])
    .whereIn('closed_by', rules)
    .select('person_id', 'channel', 'closed_by as rule', 'evidence')
}

/** How many of a released round were clear by exactly which channels, the most first. */
export async function waysClear(trx: Knex, id: number): Promise<ScreeningFigures['ways']> {
  const { rows } = await trx.raw(
    `select channels, count(*)::int as count from (
       select array_agg(channel order by channel) as channels from round_channel where round_id = ? and closed_by is null group by person_id) w
     group by channels order by count desc`,
    [id],
  )
  return rows.map(({ channels, count }: { channels: string[]; count: number }) => ({
    channels: CHANNELS.filter((c) => channels.includes(c)),
    count,
  }))
}

/** The people of a released round behind a tab or figure, in the order in which people are shown, as they were frozen. */
export async function membersPage(trx: Knex, id: number, view: ScreeningView, page: { offset: number; limit: number }) {
  const query = trx('round_member as m').where('m.round_id', id)
  if (view.tab === 'clear') query.whereNull('m.held_by')
  else if (view.tab === 'through')
    query.whereIn('m.person_id', trx('let_through').where({ round_id: id }).whereNull('taken_back_at').select('person_id'))
  else if (view.tab === 'stopped')
    query.whereIn('m.person_id', trx('contact_to_come').where({ round_id: id }).whereNotNull('stopped_by').select('person_id'))
  else if (view.tab === 'held') query.whereNotNull('m.held_by')
  else if (view.tab === 'channel') query.whereExists(channelRows(id).where({ 'c.channel': view.channel }).whereNull('c.closed_by'))
  else if (view.tab === 'ways')
    query.whereRaw(
      `(select array_agg(c.channel order by c.channel) from round_channel c where c.round_id = m.round_id and c.person_id = m.person_id and c.closed_by is null) = ?::text[]`,
      [[...view.channels].sort()],
    )
  else if (view.tab === 'rule' && view.channel)
    query.whereExists(channelRows(id).where({ 'c.channel': view.channel, 'c.closed_by': view.rule }))
  else if (view.tab === 'rule') query.where('m.held_by', view.rule)
  return paged(trx, query, page, (members) =>
    members.orderByRaw(`m.card->>'sort', m.person_id`).select('m.person_id', 'm.held_by', 'm.evidence', 'm.card', 'm.why'),
  )
}

/** The contacts that released rounds hold and no suppression stopped before they were made; of merged records as the one that stays. */
export async function seatsOf(trx: Knex, rounds: readonly number[]): Promise<Seat[]> {
  const { rows } = await trx.raw<{ rows: Seat[] }>(
    `select coalesce(p.merged_into, p.id) as person, c.channel, c.address_id as address
     from round_channel c join person p on p.id = c.person_id left join contact_to_come t using (round_id, person_id, channel)
     where c.round_id = any(?::bigint[]) and c.closed_by is null and c.address_id is not null and t.stopped_by is null
     order by c.round_id, c.person_id, c.channel`,
    [[...rounds]] as never,
  )
  return rows
}

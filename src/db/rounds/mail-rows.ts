import type { Knex } from '@/db/connection'
import type { LetterText } from './letter-rows'

export type MailState = 'running' | 'paused' | 'done' | 'failed'
export interface MailRun extends LetterText {
  id: number
  round_id: number
  per_minute: number
  state: MailState
  note: string | null
  begun_by: string
  begun_at: Date
  ended_at: Date | null
}

export type MessageState = 'waiting' | 'handed over' | 'accepted' | 'refused' | 'given up' | 'left out'
export type LeftOutWhy = 'suppressed' | 'ended' | 'no longer there' | 'merged'

/** One message that is to leave. */
export interface Message {
  person_id: number
  message_id: string
  tries: number
}

/** Returns the mail run of a round; undefined before it was begun. */
export async function mailRunOf(trx: Knex, round: number): Promise<MailRun | undefined> {
  return await trx('mail_run').where({ round_id: round }).first()
}

/** Returns a mail run by its id, locked where asked. */
export async function mailRun(trx: Knex, id: number, lock = false): Promise<MailRun | undefined> {
  const query = trx('mail_run').where({ id })
  return await (lock ? query.forUpdate() : query).first()
}

/** How many emails of a round are still to be sent. */
export async function emailsDue(trx: Knex, round: number): Promise<number> {
  const { n } = (await trx('contact_to_come')
    .where({ round_id: round, channel: 'email', ended_at: null })
    .count('person_id as n')
    .first()) as { n: number }
  return Number(n)
}

/** Writes a run and a message for everybody the round contacts by email. Gives its id and how many messages it has. */
export async function insertMailRun(
  trx: Knex,
  run: LetterText & { round_id: number; per_minute: number; begun_by: string; begun_at: Date },
): Promise<{ id: number; messages: number }> {
  const [{ id }] = await trx('mail_run').insert({ ...run, state: 'running' }, ['id'])
  const { rowCount } = await trx.raw(
    `insert into mail_message (run_id, person_id) select ?, person_id from round_channel where round_id = ? and channel = 'email' and closed_by is null`,
    [id, run.round_id],
  )
  await trx.raw('select measure_mail()')
  return { id, messages: rowCount }
}

/** Moves a run from one of some states to another. Gives how many rows that were: one or none. */
export async function moveMailRun(
  trx: Knex,
  id: number,
  from: readonly MailState[],
  to: MailState,
  note: string | null,
  endedAt: Date | null = null,
): Promise<number> {
  return await trx('mail_run').where({ id }).whereIn('state', from).update({ state: to, note, ended_at: endedAt })
}

/** The messages that were handed to the service and of which nobody knows yet whether it has them. */
export async function handedOver(trx: Knex, run: number): Promise<(Message & { at: Date })[]> {
  return await trx('mail_message')
    .where({ run_id: run, state: 'handed over' })
    .orderBy('person_id')
    .select('person_id', 'message_id', 'tries', 'at')
}

/** The next messages that may leave by an instant. */
export async function messagesDue(trx: Knex, run: number, at: Date, most: number): Promise<Message[]> {
  return await trx('mail_message')
    .where({ run_id: run, state: 'waiting' })
    .andWhere((query) => query.whereNull('not_before').orWhere('not_before', '<=', at))
    .orderByRaw('not_before nulls first, person_id')
    .limit(most)
    .select('person_id', 'message_id', 'tries')
}

/** When the first of the messages that still wait may leave; null where none waits. */
export async function nextDue(trx: Knex, run: number): Promise<Date | null> {
  const { at } = (await trx('mail_message').where({ run_id: run, state: 'waiting' }).min('not_before as at').first()) as { at: Date | null }
  return at
}

/**
 * Writes that a message is handed over, in the moment before it is: only while its run goes on and its contact is still to be made. Gives
 * false where it must not leave.
 */
export async function handOver(trx: Knex, run: number, person: number, at: Date): Promise<boolean> {
  const { rowCount } = await trx.raw(
    `update mail_message g set state = 'handed over', tries = g.tries + 1, at = ? from mail_run r, contact_to_come t
     where g.run_id = ? and g.person_id = ? and g.state = 'waiting' and r.id = g.run_id and r.state = 'running'
       and t.round_id = r.round_id and t.person_id = g.person_id and t.channel = 'email' and t.ended_at is null`,
    [at, run, person] as never,
  )
  return rowCount === 1
}

export interface Became {
  person: number
  state: MessageState
  code?: string | null
  why?: LeftOutWhy | null
  notBefore?: Date | null
}

/** Writes what became of some messages, each of which must be in one of some states still. Gives whose were. */
export async function updateMessages(
  trx: Knex,
  run: number,
  became: readonly Became[],
  from: readonly MessageState[],
  at: Date,
): Promise<Set<number>> {
  if (became.length === 0) return new Set()
  const { rows } = await trx.raw(
    `update mail_message g set state = b.state, code = b.code, why = b.why, not_before = b."notBefore", at = ?
     from jsonb_to_recordset(?::jsonb) as b(person bigint, state text, code text, why text, "notBefore" timestamptz)
     where g.run_id = ? and g.person_id = b.person and g.state = any(?::text[]) returning g.person_id`,
    [at, JSON.stringify(became), run, [...from]] as never,
  )
  return new Set(rows.map((row: { person_id: number }) => row.person_id))
}

/** How somebody who is to get a message stands. */
export interface Standing {
  /** The live record behind them. */
  root: number
  /** Their contact is still to be made. */
  open: boolean
  stopped: boolean
  /** They answered before, so that this step is not needed. */
  spared: boolean
  /** They have got it as a record that was merged with theirs. */
  twice: boolean
}

/** Of some messages, how the people stand. Whoever has no live record is missing. */
export async function standingOf(trx: Knex, run: MailRun, people: readonly number[]): Promise<Map<number, Standing>> {
  const { rows } = await trx.raw(
    `select t.person_id, r.id as root, t.ended_at is null as open, t.stopped_by is not null as stopped, t.spared,
       exists (select 1 from (select r.id union all select m.id from person m where m.merged_into = r.id) w(id)
         join mail_message h on h.run_id = ? and h.person_id = w.id
         where h.person_id <> t.person_id and h.state in ('handed over', 'accepted')) as twice
     from contact_to_come t join person p on p.id = t.person_id join person r on r.id = coalesce(p.merged_into, p.id) and r.state = 'live'
     where t.round_id = ? and t.channel = 'email' and t.person_id = any(?::bigint[])`,
    [run.id, run.round_id, [...people]] as never,
  )
  return new Map(rows.map(({ person_id, ...own }: Standing & { person_id: number }) => [person_id, own]))
}

/** How many messages of a run are in which state, by code and by why they were left out. */
export async function messageCounts(
  trx: Knex,
  run: number,
): Promise<{ state: MessageState; code: string | null; why: LeftOutWhy | null; count: number }[]> {
  return await trx('mail_message')
    .where({ run_id: run })
    .groupBy('state', 'code', 'why')
    .orderBy([{ column: 'state' }, { column: 'code' }, { column: 'why' }])
    .select('state', 'code', 'why', trx.raw('count(*)::int as count'))
}

/** What became of the messages that did not arrive, with the name that was frozen; the first of them. */
export async function notArrived(
  trx: Knex,
  run: number,
  most: number,
): Promise<{ person: number; name: string; state: MessageState; code: string | null; why: LeftOutWhy | null }[]> {
  return await trx('mail_message as g')
    .join('mail_run as r', 'r.id', 'g.run_id')
    .join('round_member as m', (on) => on.on('m.round_id', 'r.round_id').andOn('m.person_id', 'g.person_id'))
    .where({ run_id: run })
    .whereIn('g.state', ['refused', 'given up', 'left out'])
    .orderByRaw(`m.card ->> 'sort', g.person_id`)
    .limit(most)
    .select('g.person_id as person', trx.raw(`m.card ->> 'name' as name`), 'g.state', 'g.code', 'g.why')
}

/** Holds a message until the end of the transaction, against another that acts on it. */
export async function lockMessage(trx: Knex, id: string): Promise<void> {
  await trx('mail_message').where({ message_id: id }).forUpdate().select('person_id')
}

/** The message with an id: its round, who got it and at which address, and who began to send it. */
export async function messageById(
  trx: Knex,
  id: string,
): Promise<
  | { round: number; called: string; person: number; root: number; live: boolean; to: string | null; sender: string; begun_by: string }
  | undefined
> {
  return await trx('mail_message as g')
    .join('mail_run as r', 'r.id', 'g.run_id')
    .join('round as o', 'o.id', 'r.round_id')
    .join('person as p', 'p.id', 'g.person_id')
    .joinRaw('join person w on w.id = coalesce(p.merged_into, p.id)')
    .joinRaw(`join round_channel c on c.round_id = r.round_id and c.person_id = g.person_id and c.channel = 'email'`)
    .where({ message_id: id })
    .first(
      'r.round_id as round',
      trx.raw('called(o)'),
      'g.person_id as person',
      'w.id as root',
      trx.raw(`w.state = 'live' as live`),
      trx.raw(`c.sent_to ->> 'value' as "to"`),
      'r.sender_name as sender',
      'r.begun_by',
    )
}

/** Runs that somebody began and that do not go on by themselves, of rounds that are out. */
export async function mailRunsStuck(
  trx: Knex,
  actor: string,
): Promise<{ round: number; called: string; list: string; state: 'failed' | 'paused'; waiting: number }[]> {
  const { rows } = await trx.raw(
    `select r.id as round, called(r), l.name as list, g.state,
       (select count(*)::int from mail_message m where m.run_id = g.id and m.state in ('waiting', 'handed over')) as waiting
     from mail_run g join round r on r.id = g.round_id and r.closed_at is null join list l on l.id = r.list_id and l.deleted_at is null
     where g.begun_by = ? and role_on(l, g.begun_by) is not null and g.state in ('failed', 'paused') order by r.id`,
    [actor],
  )
  return rows
}

/** Runs that are under way, for whom the queue must have a job. */
export async function mailRunsDue(trx: Knex): Promise<{ id: number }[]> {
  return await trx('mail_run').where({ state: 'running' }).orderBy('id').select('id')
}

/** Whether whoever is behind a record, or has an address by its key, asked to get no more emails. */
export async function stoppedEmails(trx: Knex, of: { person: number } | { key: Buffer }, at: Date): Promise<boolean> {
  const { rows } = await trx.raw(
    `select 1 from ${'person' in of ? 'suppression_touch k' : 'suppression_key k'} join suppression_standing s on s.id = k.suppression_id
     where k.${'person' in of ? 'person_id' : 'key'} = ? and s.reason in ('opt-out', 'complaint') and 'email' = any(s.channels)
       and s.since <= ? and (s.until is null or s.until > ?) limit 1`,
    ['person' in of ? of.person : of.key, at, at] as never,
  )
  return rows.length > 0
}

import type { PeopleColumns } from '@/core/columns/people-columns'
import { SCREENED } from '@/core/columns/person-record'
import { db, type Knex } from '@/db/connection'
import { copyIn } from '@/db/copy-rows'
import { readForRules } from '@/db/directory/read-people'
import { personRecords } from '@/db/directory/person-records'
import type { PersonView } from '@/core/views/record-views'

/** A table of verdicts that lasts as long as the transaction. */
export async function verdictTable(trx: Knex, name: string, rows: Iterable<unknown[]>): Promise<void> {
  const ofChannel = SCREENED.flatMap((channel) => [`${channel}_to`, `${channel}_by`, `${channel}_evidence`])
  await trx.raw(`drop table if exists ${name}`)
  await trx.raw(
    `create temporary table ${name} (person_id bigint, held_by int, evidence jsonb, ${ofChannel.map((column, i) => `${column} ${['bigint', 'int', 'jsonb'][i % 3]}`).join(', ')}) on commit drop`,
  )
  await copyIn(trx, name, ['person_id', 'held_by', 'evidence', ...ofChannel], rows as Iterable<never[]>)
  await trx.raw(`analyze ${name}`)
}

/** Those whose ids a query gives who are live, with what is known of the records that were merged into them. */
export async function readFor(trx: Knex, who: string): Promise<PeopleColumns> {
  const columns = await readForRules(trx, who)
  const merged = await trx('person').whereRaw(`merged_into in (${who})`).distinct('merged_into')
  for (const { live, record } of await personRecords(
    trx,
    merged.map((m) => m.merged_into),
  ))
    if (live) columns.put(record)
  return columns
}

export async function writeToCome(trx: Knex, round: number, since: Date): Promise<void> {
  await trx.raw(
    'insert into contact_to_come (round_id, person_id, channel, since) select round_id, person_id, channel, ? from round_channel where round_id = ? and closed_by is null',
    [since, round],
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

export const channelRows = (id: number) =>
  db()('round_channel as c').select(db().raw('1')).where('c.round_id', id).whereRaw('c.person_id = m.person_id')

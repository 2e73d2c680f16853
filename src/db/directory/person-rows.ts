import type { PersonPage } from '@/core/views/record-views'
import { db, type Knex } from '@/db/connection'
import { FIELD } from '@/core/clean/standard-fields'
import type { Way } from '@/core/records/channels'

/** The rows of files somebody was in, as they came, the newest first: at most twenty. */
export async function rowsOfPerson(ids: number[]): Promise<PersonPage['came']> {
  const rows = await db()('batch_row as r')
    .join('batch as b', 'b.id', 'r.batch_id')
    .whereIn('r.person_id', ids)
    .where('b.kind', 'people')
    .orderBy('b.id', 'desc')
    .orderBy('r.row_no')
    .limit(20)
    .select('r.batch_id', 'r.row_no', 'r.raw', 'b.file_name', 'b.header', 'b.created_at')
  return rows.map((r) => ({
    batch: r.batch_id,
    file: r.file_name,
    at: r.created_at.toISOString(),
    row: r.row_no,
    cells: (r.header as string[]).flatMap((title, i) =>
      r.raw[i]?.trim() ? [{ title: title || `Column ${i + 1}`, cell: r.raw[i] as string }] : [],
    ),
  }))
}

export async function named(ids: number[]): Promise<Map<number, Named>> {
  const rows: Named[] = await db()('person as p')
    .leftJoin('organisation as o', 'o.id', 'p.organisation_id')
    .leftJoin('facts as f', 'f.person_id', 'p.id')
    .leftJoin('user as u', 'u.id', 'f.last_by')
    .whereIn('p.id', ids)
    .select(
      'p.id',
      'p.name',
      'p.role',
      'o.name as organisation',
      'o.id as organisationId',
      'f.last_at',
      'f.last_channel',
      'f.last_result',
      'u.name as last_by',
    )
  return new Map(rows.map((row) => [row.id, row]))
}

/** What a row says of somebody besides what can be told at a glance. */
export interface Named {
  id: number
  name: string
  role: string | null
  organisation: string | null
  organisationId: number | null
  last_at: Date | null
  last_channel: Way
  last_result: string | null
  last_by: string | null
}

export async function lockCustom(trx: Knex, person: number) {
  return await trx('person').where({ id: person, state: 'live' }).forNoKeyUpdate().first('custom')
}

export async function updateCustom(trx: Knex, person: number, value: string | null, others: object, id: number) {
  return await trx('person')
    .where({ id: person })
    .update({ custom: JSON.stringify(value === null ? others : { ...others, [id]: value }) })
}

export async function lockMarks(trx: Knex, ids: number[]) {
  return await trx('person')
    .whereRaw('id = any(?::bigint[])', [ids])
    .where({ state: 'live' })
    .orderBy('id')
    .forNoKeyUpdate()
    .select('id', 'tags', 'custom')
}

export async function updateHolder(trx: Knex, others: number[], text: string) {
  return await trx.raw(`update person set custom = custom || ? where id = any(?::bigint[])`, [
    JSON.stringify({ [FIELD.holder]: text }),
    others,
  ])
}

export async function updateTag(trx: Knex, others: number[], add: boolean, text: string) {
  return await trx.raw(`update person set tags = ${add ? 'array_append' : 'array_remove'}(tags, ?) where id = any(?::bigint[])`, [
    text,
    others,
  ])
}

export async function restoreHolders(trx: Knex, changes: string) {
  return await trx.raw(
    `update person p set custom = case when b.before is null then p.custom - ?::text else p.custom || jsonb_build_object(?::text, b.before) end
       from jsonb_to_recordset(?::jsonb) as b(id bigint, before text) where p.id = b.id`,
    [String(FIELD.holder), String(FIELD.holder), changes],
  )
}

export async function restoreTag(trx: Knex, mine: number[], had: boolean, actText: string) {
  return await trx.raw(`update person set tags = ${had ? 'array_remove' : 'array_append'}(tags, ?) where id = any(?::bigint[])`, [
    actText,
    mine,
  ])
}

export async function lockPeople(trx: Knex, ids: number[]) {
  return await trx('person').whereIn('id', ids).orderBy('id').forNoKeyUpdate().select('id')
}

export async function peopleWithOrganisation(trx: Knex, ids: number[]) {
  return await trx('person as p')
    .leftJoin('organisation as o', 'o.id', 'p.organisation_id')
    .whereIn('p.id', ids)
    .select('p.*', 'o.name as organisation')
}

export async function updateFacts(trx: Knex, plainColumns: Record<string, unknown>, keep: number, keptName: string) {
  return await trx('person')
    .where({ id: keep })
    .update({ name: keptName, ...plainColumns })
}

export async function personForPair(trx: Knex, id: number) {
  return await trx('person as p')
    .leftJoin('organisation as o', 'o.id', 'p.organisation_id')
    .leftJoin('batch as b', 'b.id', 'p.batch_id')
    .leftJoin('facts as f', 'f.person_id', 'p.id')
    .where('p.id', id)
    .first('p.*', 'o.name as organisation', 'b.file_name', 'f.last_at')
}

export async function personNames(trx: Knex, people: number[]) {
  return await trx('person').whereRaw('id = any(?::bigint[])', [people]).select('id', 'name')
}

export async function livePerson(trx: Knex, person: number) {
  return await trx('person').where({ id: person, state: 'live' }).first('id')
}

export async function personId(trx: Knex, targetPerson: number) {
  return await trx('person').where({ id: targetPerson }).first('id')
}

export async function personRow(trx: Knex, keep: number) {
  return await trx('person').where({ id: keep }).first()
}

export async function mergedHere(trx: Knex, id: number) {
  return await trx('person').where({ merged_into: id }).orderBy('id').select('id', 'name')
}

export async function personName(trx: Knex, id: number) {
  return await trx('person').where({ id }).first('id', 'name')
}

export async function namesWithOrganisation(trx: Knex, ids: number[]) {
  return await trx('person as p')
    .leftJoin('organisation as o', 'o.id', 'p.organisation_id')
    .whereIn('p.id', ids)
    .select('p.id', 'p.name', 'o.name as organisation')
}

export async function countPeopleLive(trx: Knex) {
  const { rows } = await trx.raw(`select count(*)::int as expected from person where state = 'live'`)
  return rows
}

export async function lockPerson(trx: Knex, id: number) {
  return await trx('person').where({ id }).forNoKeyUpdate().first()
}

export async function cameAndWent(trx: Knex, ids: number[]) {
  return await trx('person as p')
    .leftJoin('batch as b', 'b.id', 'p.batch_id')
    .whereIn('p.id', ids)
    .leftJoin('person as m', 'm.id', 'p.merged_into')
    .select('p.id', 'p.created_at', 'p.state', 'm.name as into', 'b.file_name')
}

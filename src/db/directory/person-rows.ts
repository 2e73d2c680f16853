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

/** Returns the names, roles, organisations and last contacts of people, by id. */
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

/** Locks a live person and returns the fields of the team's own; undefined where the person is gone. */
export async function lockCustom(trx: Knex, person: number) {
  return await trx('person').where({ id: person, state: 'live' }).forNoKeyUpdate().first('custom')
}

/** Writes one field of the team's own, or removes it where the value is null. `others` are the fields as they were read under the lock. */
export async function updateCustom(trx: Knex, person: number, value: string | null, others: object, id: number) {
  return await trx('person')
    .where({ id: person })
    .update({ custom: JSON.stringify(value === null ? others : { ...others, [id]: value }) })
}

/** Locks live people in the order of their ids and returns their tags and fields of the team's own. */
export async function lockMarks(trx: Knex, ids: number[]) {
  return await trx('person')
    .whereRaw('id = any(?::bigint[])', [ids])
    .where({ state: 'live' })
    .orderBy('id')
    .forNoKeyUpdate()
    .select('id', 'tags', 'custom')
}

/** Hands people over to a colleague: writes who holds each. */
export async function updateHolder(trx: Knex, others: number[], text: string) {
  return await trx.raw(`update person set custom = custom || ? where id = any(?::bigint[])`, [
    JSON.stringify({ [FIELD.holder]: text }),
    others,
  ])
}

/** Adds a tag to people or takes it off them. */
export async function updateTag(trx: Knex, others: number[], add: boolean, text: string) {
  return await trx.raw(`update person set tags = ${add ? 'array_append' : 'array_remove'}(tags, ?) where id = any(?::bigint[])`, [
    text,
    others,
  ])
}

/** Writes who held each person before a hand-over. `changes` is JSON: id and value before. */
export async function restoreHolders(trx: Knex, changes: string) {
  return await trx.raw(
    `update person p set custom = case when b.before is null then p.custom - ?::text else p.custom || jsonb_build_object(?::text, b.before) end
       from jsonb_to_recordset(?::jsonb) as b(id bigint, before text) where p.id = b.id`,
    [String(FIELD.holder), String(FIELD.holder), changes],
  )
}

/** Takes a tag off people again, or gives it back where they had it. */
export async function restoreTag(trx: Knex, mine: number[], had: boolean, actText: string) {
  return await trx.raw(`update person set tags = ${had ? 'array_remove' : 'array_append'}(tags, ?) where id = any(?::bigint[])`, [
    actText,
    mine,
  ])
}

/** Locks people in the order of their ids. */
export async function lockPeople(trx: Knex, ids: number[]) {
  return await trx('person').whereIn('id', ids).orderBy('id').forNoKeyUpdate().select('id')
}

/** Returns all columns of people, with the names of their organisations. */
export async function peopleWithOrganisation(trx: Knex, ids: number[]) {
  return await trx('person as p')
    .leftJoin('organisation as o', 'o.id', 'p.organisation_id')
    .whereIn('p.id', ids)
    .select('p.*', 'o.name as organisation')
}

/** Writes the facts that a merge chose onto the person who is kept. */
export async function updateFacts(trx: Knex, columns: Record<string, unknown>, id: number, name: string) {
  return await trx('person')
    .where({ id })
    .update({ name, ...columns })
}

/** Returns a person as a pair shows them: organisation, first file and last contact. */
export async function personForPair(trx: Knex, id: number) {
  return await trx('person as p')
    .leftJoin('organisation as o', 'o.id', 'p.organisation_id')
    .leftJoin('batch as b', 'b.id', 'p.batch_id')
    .leftJoin('facts as f', 'f.person_id', 'p.id')
    .where('p.id', id)
    .first('p.*', 'o.name as organisation', 'b.file_name', 'f.last_at')
}

/** Returns the names of people. */
export async function personNames(trx: Knex, people: number[]) {
  return await trx('person').whereRaw('id = any(?::bigint[])', [people]).select('id', 'name')
}

/** Returns the person where they are live; undefined where they were merged, withdrawn or erased. */
export async function livePerson(trx: Knex, person: number) {
  return await trx('person').where({ id: person, state: 'live' }).first('id')
}

/** Returns the person whatever their state; undefined where there is none. */
export async function personId(trx: Knex, id: number) {
  return await trx('person').where({ id }).first('id')
}

/** Returns all columns of a person, whatever their state. */
export async function personRow(trx: Knex, id: number) {
  return await trx('person').where({ id }).first()
}

/** Returns those who were merged into a person. */
export async function mergedHere(trx: Knex, id: number) {
  return await trx('person').where({ merged_into: id }).orderBy('id').select('id', 'name')
}

/** Returns the name of a person, whatever their state. */
export async function personName(trx: Knex, id: number) {
  return await trx('person').where({ id }).first('id', 'name')
}

/** Returns the names of people with those of their organisations. */
export async function namesWithOrganisation(trx: Knex, ids: number[]) {
  return await trx('person as p')
    .leftJoin('organisation as o', 'o.id', 'p.organisation_id')
    .whereIn('p.id', ids)
    .select('p.id', 'p.name', 'o.name as organisation')
}

/** Returns how many people are live. */
export async function countPeopleLive(trx: Knex) {
  const { rows } = await trx.raw(`select count(*)::int as expected from person where state = 'live'`)
  return rows
}

/** Locks a person and returns all columns. */
export async function lockPerson(trx: Knex, id: number) {
  return await trx('person').where({ id }).forNoKeyUpdate().first()
}

/** Returns when people came in, by which file, and into whom they were merged. */
export async function cameAndWent(trx: Knex, ids: number[]) {
  return await trx('person as p')
    .leftJoin('batch as b', 'b.id', 'p.batch_id')
    .whereIn('p.id', ids)
    .leftJoin('person as m', 'm.id', 'p.merged_into')
    .select('p.id', 'p.created_at', 'p.state', 'm.name as into', 'b.file_name')
}

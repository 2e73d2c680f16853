import type { Knex } from 'knex'
import type { CustomValues } from '@/core/clean/custom'
import type { FieldChange } from '@/core/views/intake-views'
import type { Candidate } from '@/core/match/same'

/** A person as matching and updating need them. */
export interface KnownPerson extends Candidate {
  given: string
  familyName: string
  role: string | null
  organisationId: number | null
  /** As it is written; `organisation` is its comparable form. */
  organisationName: string | null
  relation: string | null
  street: string | null
  town: string | null
  postcode: string | null
  /** Where letters go, which may be their organisation's address. */
  post: { street: string | null; town: string | null; postcode: string | null } | null
  county: string | null
  tags: string[]
  custom: CustomValues
  topPosition: number
  /** Numbers of records that were merged into this one. */
  otherRecords?: number[]
  /** Their profile links and handles, in small letters. They are no key to know somebody by. */
  directs: string[]
}

export interface RowOutcome {
  row_no: number
  outcome: 'new' | 'same' | 'updated' | 'in doubt' | 'refused'
  reason?: string | null
  person_id?: number | null
  premises_id?: number | null
  candidates?: number[] | null
  /** Of a row that changes somebody known: who they are and what it changes. Not stored: the ledger has it. */
  changes?: { name: string; fields: FieldChange[] }
}

/** The next rows of a batch, after one of them, that nothing has become of yet, in the order of the file. */
export async function openRows(trx: Knex, batch: number, after: number, limit: number): Promise<{ row_no: number; raw: string[] }[]> {
  return trx('batch_row')
    .where({ batch_id: batch })
    .where('row_no', '>', after)
    .whereNull('outcome')
    .orderBy('row_no')
    .limit(limit)
    .select('row_no', 'raw')
}

/** Writes what became of some rows, in one statement. */
export async function settleRows(trx: Knex, batch: number, outcomes: RowOutcome[]): Promise<void> {
  await trx.raw(
    `update batch_row b set outcome = o.outcome, reason = o.reason, person_id = o.person_id, premises_id = o.premises_id, candidates = o.candidates
     from jsonb_to_recordset(?::jsonb) as o(row_no int, outcome text, reason text, person_id bigint, premises_id bigint, candidates bigint[])
     where b.batch_id = ? and b.row_no = o.row_no`,
    [JSON.stringify(outcomes.map(({ changes: _, ...outcome }) => outcome)), batch],
  )
}

/** Ids set aside for rows that are about to be created. */
export async function nextIds(trx: Knex, table: 'person' | 'organisation' | 'premises', count: number): Promise<number[]> {
  if (count === 0) return []
  const { rows } = await trx.raw(`select nextval(pg_get_serial_sequence(?, 'id')) as id from generate_series(1, ?)`, [table, count])
  return rows.map((row: { id: number }) => Number(row.id))
}

/** Live people who share an outside id, an address or number, or a name with some rows, and those of some ids. */
export async function peopleSharing(
  trx: Knex,
  keys: { outsideIds: string[]; addressKeys: Buffer[]; names: string[]; ids?: number[] },
): Promise<KnownPerson[]> {
  const { rows } = await trx.raw(
    `with near as (
       select coalesce(merged_into, id) as id from person where outside_id = any(?::text[]) and state <> 'withdrawn'
       union select person_id from address where key = any(?::bytea[])
       union select coalesce(merged_into, id) from person where name_key = any(?::text[]) and state <> 'withdrawn'
       union select coalesce(p.merged_into, p.id) from name_variant v join person p on p.id = v.person_id where v.name_key = any(?::text[]) and p.state <> 'withdrawn'
       union select coalesce(merged_into, id) from person where id = any(?::bigint[]) and state <> 'withdrawn')
     select p.id, p.outside_id as "outsideId", p.given, p.family as "familyName", p.name_key as name, p.role, p.relation, p.organisation_id as "organisationId", o.name as "organisationName",
       p.street, p.town, p.postcode, p.county, p.tags, p.custom, p.address_key as address, o.name_key as organisation,
       coalesce((select array_agg(value) from address a where a.person_id = p.id and a.channel = 'email'), '{}') as emails,
       coalesce((select array_agg(value) from address a where a.person_id = p.id and a.channel = 'phone'), '{}') as phones,
       coalesce((select array_agg(lower(value)) from address a where a.person_id = p.id and a.channel = 'direct'), '{}') as directs,
       (select parts from address a where a.person_id = p.id and a.channel = 'post' limit 1) as post,
       coalesce((select array_agg(m.id) from person m where m.merged_into = p.id), '{}') as "otherRecords",
       coalesce((select array_agg(m.outside_id) from person m where m.merged_into = p.id and m.outside_id is not null), '{}') as "otherIds",
       array(select m.name_key from person m where m.merged_into = p.id and m.name_key <> '' union select v.name_key from name_variant v join person m on m.id = v.person_id where m.id = p.id or m.merged_into = p.id) as "otherNames",
       coalesce((select min(position) from address a where a.person_id = p.id), 0) as "topPosition"
     from near join person p using (id) left join organisation o on o.id = p.organisation_id
     where p.state = 'live' order by p.id`,
    [keys.outsideIds, keys.addressKeys, keys.names, keys.names, keys.ids ?? []],
  )
  return rows
}

export interface KnownOrganisation {
  id: number
  key: string
  industry: string | null
  headCount: number | null
  website: string | null
  county: string | null
  street: string | null
  town: string | null
  postcode: string | null
  details: CustomValues
}

/** Live organisations of some names. One look-up a name: asked for all at once, the planner takes the index of trigrams. */
export async function organisationsNamed(trx: Knex, keys: string[]): Promise<KnownOrganisation[]> {
  return trx('organisation')
    .where({ live: true })
    .whereRaw('name_key in (select unnest(?::text[]))', [keys])
    .orderBy('id')
    .select('id', 'name_key as key', 'industry', 'head_count as headCount', 'website', 'county', 'street', 'town', 'postcode', 'details')
}

/** Whether a value is neither null nor undefined. */
export const isSet = <T>(value: T | null | undefined): value is T => value !== null && value !== undefined

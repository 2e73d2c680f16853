import type { Line } from '@/core/lists/line'
import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'

/** A change that lists were not asked about yet. */
export interface Untold {
  id: number
  person_id: number | null
  organisation_id: number | null
  premises_id: number | null
}

/** Changes that lists were not asked about yet: so many at most, the oldest first. */
export async function untoldChanges(trx: Knex, most: number): Promise<Untold[]> {
  return await trx('change').whereNull('told_at').orderBy('id').limit(most).select('id', 'person_id', 'organisation_id', 'premises_id')
}

/** Lists that stand, with their latest edition: all of them, or those of which it is not kept yet who is on that edition. */
export async function listsToTell(
  trx: Knex,
  which: 'all' | 'new',
): Promise<{ id: number; subject: Subject; edition: number; lines: Line[] }[]> {
  const { rows } = await trx.raw(
    `select l.id, l.subject, e.number as edition, e.lines from list l
     join lateral (select number, lines from edition where list_id = l.id order by number desc limit 1) e on true
     where l.deleted_at is null and l.archived_at is null
       ${which === 'new' ? 'and not exists (select 1 from standing s where s.list_id = l.id and s.edition = e.number)' : ''} order by l.id`,
  )
  return rows
}

/** Who was on a list when changes were last told, as packed ids; undefined the first time. */
export async function standingOf(trx: Knex, list: number): Promise<{ edition: number; members: Buffer } | undefined> {
  return await trx('standing').where({ list_id: list }).first('edition', 'members')
}

/** Keeps who stood on a list at an edition, so that the next look can say who came and who went. */
export async function keepStanding(trx: Knex, list: number, edition: number, members: Buffer, at: Date): Promise<void> {
  await trx('standing').insert({ list_id: list, at, edition, members }).onConflict('list_id').merge()
}

/**
 * Whom changes concern on a list of a subject: the record itself; on a list of people also those who work at the organisation or are
 * at the premises, or own them; on a list of organisations also those at the premises. Pairs of change and record.
 */
export async function concerned(trx: Knex, changes: readonly number[], of: Subject): Promise<{ change: number; record: number }[]> {
  const { rows } = await trx.raw(CONCERNED[of], { ids: [...changes] } as never)
  return rows
}

const CONCERNED: Record<Subject, string> = {
  person: `with c as (select * from change where id = any(:ids::bigint[]))
    select c.id as change, c.person_id as record from c where c.person_id is not null
    union select c.id, p.id from c join person p on p.organisation_id = c.organisation_id where p.state = 'live'
    union select c.id, p.id from c join premises q on q.id = c.premises_id join person p on p.address_key = q.address_key where p.state = 'live'
    union select c.id, p.id from c join premises q on q.id = c.premises_id join organisation o on o.address_key = q.address_key join person p on p.organisation_id = o.id where p.state = 'live'
    union select c.id, p.id from c join premises q on q.id = c.premises_id join person p on p.name_key = q.owner_name_key and p.address_key = q.owner_address_key where p.state = 'live'`,
  organisation: `with c as (select * from change where id = any(:ids::bigint[]))
    select c.id as change, c.organisation_id as record from c where c.organisation_id is not null
    union select c.id, o.id from c join premises q on q.id = c.premises_id join organisation o on o.address_key = q.address_key where o.live`,
  premises: `select id as change, premises_id as record from change where id = any(:ids::bigint[]) and premises_id is not null`,
}

export interface ToldRow {
  list_id: number
  change_id: number
  before: boolean
  after: boolean
  moved: boolean
}

/** Notes which changes concern which lists. Told again, a change stays what it was before. */
export async function writeTold(trx: Knex, rows: readonly ToldRow[]): Promise<void> {
  if (rows.length === 0) return
  await trx.raw(
    `insert into told (list_id, change_id, before, after, moved, learned_at)
     select r.list_id, r.change_id, r.before, r.after, r.moved, c.learned_at
     from jsonb_to_recordset(?::jsonb) as r(list_id bigint, change_id bigint, before boolean, after boolean, moved boolean) join change c on c.id = r.change_id
     on conflict (list_id, change_id) do update set before = told.before or excluded.before, after = excluded.after, moved = told.moved or excluded.moved, learned_at = excluded.learned_at`,
    [JSON.stringify(rows)],
  )
}

/** Marks changes as told to their followers, so that none is told twice. */
export async function markTold(trx: Knex, changes: readonly number[], at: Date): Promise<void> {
  await trx('change')
    .whereIn('id', [...changes])
    .update({ told_at: at })
}

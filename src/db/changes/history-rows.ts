import { customIdOf } from '@/core/clean/custom'
import { fold } from '@/core/clean/fold'
import type { History, ReportEntry } from '@/core/changes/read'
import { FAILED } from '@/core/records/results'
import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'

/** A record whose changes are read, with what else must be known of it. */
export interface SubjectHistory extends History {
  id: number
  /** Why none of its changes counts any more; null while it is in the directory. */
  goneWhy: 'merged' | 'erased' | 'withdrawn' | null
  /** Its entries that count no more: taken back, or taking something back. */
  undone: Set<number>
}

/** Takes records off the queue of those whose changes must be read anew: so many at most, each once. */
export async function takeDue(trx: Knex, most: number): Promise<Record<Subject, number[]>> {
  const { rows } = await trx.raw<{ rows: { person_id: number | null; organisation_id: number | null; premises_id: number | null }[] }>(
    `with first as (select id from change_due order by id limit ?)
     delete from change_due d using first where d.id = first.id returning d.person_id, d.organisation_id, d.premises_id`,
    [most],
  )
  const of = (column: 'person_id' | 'organisation_id' | 'premises_id') => [...new Set(rows.flatMap((row) => row[column] ?? []))]
  return { person: of('person_id'), organisation: of('organisation_id'), premises: of('premises_id') }
}

/** Whether any record waits to have its changes read. */
export async function anyDue(trx: Knex): Promise<boolean> {
  return (await trx.raw('select exists (select 1 from change_due) as due')).rows[0].due
}

/** Records that others were merged into count for them, so those are read with them. */
export async function withWhoStays(trx: Knex, people: number[]): Promise<number[]> {
  if (people.length === 0) return []
  const { rows } = await trx.raw<{ rows: { id: number }[] }>(
    `select id from person where id = any(?::bigint[]) union select merged_into from person where id = any(?::bigint[]) and merged_into is not null order by 1`,
    [people, people],
  )
  return rows.map(({ id }) => id)
}

interface EntryRow {
  subject: number
  id: number
  kind: ReportEntry['kind']
  day: string
  recorded_at: Date
  field: string | null
  before: string | null
  after: string | null
  stated: boolean
  source: string
  kind_id: number | null
  same: string[]
  result: string | null
  undone: boolean
}

const COLUMN: Record<Subject, string> = { person: 'person_id', organisation: 'organisation_id', premises: 'premises_id' }

/** What the changes of some records are read off. `zone` is the time zone in which days are told. */
export async function historiesOf(trx: Knex, of: Subject, ids: number[], zone: string): Promise<SubjectHistory[]> {
  if (ids.length === 0) return []
  const records = await recordsOf(trx, of, ids, zone)
  const whole =
    of === 'person'
      ? `select id, coalesce(merged_into, id) as subject from person where id = any(:ids::bigint[]) or merged_into = any(:ids::bigint[])`
      : `select id, id as subject from unnest(:ids::bigint[]) id`
  const { rows } = await trx.raw<{ rows: EntryRow[] }>(
    `with whole as materialized (${whole})
     select w.subject, e.id, e.kind, to_char(coalesce(r.seen_on, (e.at at time zone :zone)::date), 'YYYY-MM-DD') as day, e.recorded_at, e.field, v.before, v.after, e.result,
       coalesce(r.stated, e.kind = 'contact') as stated,
       coalesce(r.source, b.file_name, case when e.kind = 'contact' then 'contacts' else 'entered by hand' end) as source,
       r.kind_id, coalesce((select array_agg(encode(k, 'hex')) from unnest(r.same) k), '{}') as same,
       e.reverses_id is not null or exists (select 1 from entry x where x.reverses_id = e.id) or b.state = 'undone' and e.kind = 'reported' as undone
     from whole w join entry e on e.${COLUMN[of]} = w.id
     left join entry_value v on v.id = e.value_id left join report r on r.entry_id = e.id left join batch b on b.id = e.batch_id
     left join suppression s on s.id = e.suppression_id
     where e.kind in ('change', 'reported') or (e.kind = 'contact' and (e.result = any(:failed) or e.result = 'replied'))
       or (e.kind = 'suppressed' and s.reason = 'complaint' and e.person_id is not null)
     order by e.id`,
    { ids, zone, failed: [...FAILED] } as never,
  )
  const entries = new Map<number, EntryRow[]>()
  for (const row of rows) entries.set(row.subject, [...(entries.get(row.subject) ?? []), row])
  const changed = new Set(rows.filter((row) => row.field === 'role' || row.field === 'organisation').map((row) => row.subject))
  const cells = of === 'person' ? await rowsOf(trx, [...changed], zone) : new Map()
  return records.map((record) => ({
    of,
    id: record.id,
    since: record.since,
    goneWhy: record.gone_why,
    now: (field) => valueNow(record, field),
    entries: (entries.get(record.id) ?? [])
      .filter((row) => !row.undone)
      .map((row) => ({
        id: row.id,
        kind: row.kind,
        day: row.day,
        recordedAt: row.recorded_at.getTime(),
        field: row.field,
        before: row.before,
        after: row.after,
        stated: row.stated,
        source: row.source,
        happening: row.kind_id,
        same: row.same,
        result: row.result,
      })),
    undone: new Set((entries.get(record.id) ?? []).filter((row) => row.undone).map((row) => row.id)),
    rows: cells.get(record.id) ?? [],
  }))
}

interface RecordRow {
  id: number
  since: string
  gone_why: SubjectHistory['goneWhy']
  fields: Record<string, unknown>
  custom: Record<string, string>
}

function valueNow(record: RecordRow, field: string): string | null {
  const id = customIdOf(field)
  const value = id === null ? record.fields[field] : record.custom[id]
  return value === null || value === undefined ? null : String(value)
}

const RECORDS: Record<Subject, string> = {
  person: `select p.id, p.created_at, case p.state when 'live' then null else p.state end as gone_why, p.custom,
      jsonb_build_object('role', p.role, 'relation', p.relation, 'organisation', o.name, 'county', p.county, 'town', p.town) as fields
    from person p left join organisation o on o.id = p.organisation_id where p.id = any(:ids::bigint[])`,
  organisation: `select o.id, o.created_at, case when o.live then null else 'withdrawn' end as gone_why, o.details as custom,
      jsonb_build_object('industry', o.industry, 'headCount', o.head_count, 'county', o.county, 'town', o.town) as fields
    from organisation o where o.id = any(:ids::bigint[])`,
  premises: `select q.id, q.created_at, case q.state when 'live' then null else q.state end as gone_why, q.details as custom,
      jsonb_build_object('kind', q.kind, 'county', q.county, 'town', q.town, 'roof area', q.roof_area, 'year built', q.year_built, 'owner', q.owner, 'kind of owner', q.owner_kind) as fields
    from premises q where q.id = any(:ids::bigint[])`,
}

async function recordsOf(trx: Knex, of: Subject, ids: number[], zone: string): Promise<RecordRow[]> {
  const { rows } = await trx.raw(
    `select r.*, to_char((r.created_at at time zone :zone)::date, 'YYYY-MM-DD') as since from (${RECORDS[of]}) r order by r.id`,
    { ids, zone } as never,
  )
  return rows
}

/** Rows of files that were these people, but for those that were undone. */
async function rowsOf(trx: Knex, people: number[], zone: string): Promise<Map<number, History['rows'][number][]>> {
  const found = new Map<number, History['rows'][number][]>()
  if (people.length === 0) return found
  const { rows } = await trx.raw<{ rows: { subject: number; raw: string[]; day: string; file_name: string }[] }>(
    `select coalesce(p.merged_into, p.id) as subject, r.raw, b.file_name, to_char((b.created_at at time zone ?)::date, 'YYYY-MM-DD') as day
     from person p join batch_row r on r.person_id = p.id join batch b on b.id = r.batch_id
     where (p.id = any(?::bigint[]) or p.merged_into = any(?::bigint[])) and b.kind = 'people' and b.state <> 'undone' and r.outcome in ('new', 'same', 'updated')
     order by r.batch_id, r.row_no`,
    [zone, people, people],
  )
  for (const row of rows)
    found.set(row.subject, [...(found.get(row.subject) ?? []), { day: row.day, source: row.file_name, cells: row.raw.map(fold) }])
  return found
}

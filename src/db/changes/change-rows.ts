import type { ReadChange } from '@/core/changes/read'
import type { Subject } from '@/core/records/subject'
import type { Knex } from '@/db/connection'
import { insertRows } from '@/db/insert-rows'

export const SUBJECT_COLUMN: Record<Subject, 'person_id' | 'organisation_id' | 'premises_id'> = {
  person: 'person_id',
  organisation: 'organisation_id',
  premises: 'premises_id',
}

/** A change as it is stored, as far as reading it anew needs. */
export interface StoredChange {
  id: number
  subject: number
  kind_id: number
  field: string | null
  from_entry: number | null
  entry_id: number
  reports: number[]
  sources: number
  after_day: string | null
  by_day: string
  sure: string
  learned_at: Date
  gone_why: string | null
}

/** The changes of some records as they are stored, those that are gone, too. Locks them. */
export async function storedChanges(trx: Knex, of: Subject, ids: number[]): Promise<StoredChange[]> {
  const column = SUBJECT_COLUMN[of]
  return await trx('change')
    .whereIn(column, ids)
    .orderBy('id')
    .forNoKeyUpdate()
    .select(
      'id',
      `${column} as subject`,
      'kind_id',
      'field',
      'from_entry',
      'entry_id',
      'reports',
      'sources',
      'after_day',
      'by_day',
      'sure',
      'learned_at',
      'gone_why',
    )
}

/** Numbers of kinds by the word the product knows them by. */
export async function kindsByKey(trx: Knex): Promise<Map<string, number>> {
  return new Map((await trx('change_kind').whereNotNull('key').select('id', 'key')).map((kind) => [kind.key, kind.id]))
}

export type NewChange = Omit<ReadChange, 'kind'> & { of: Subject; subject: number; kind: number }

const columnsOf = (c: NewChange) => ({
  kind_id: c.kind,
  field: c.field,
  from_entry: c.fromEntry,
  entry_id: c.entry,
  reports: c.reports,
  sources: c.sources,
  after_day: c.after,
  by_day: c.by,
  sure: c.sure,
  learned_at: new Date(c.learnedAt),
})

/** Inserts changes in one statement, whatever their number. */
export async function insertChanges(trx: Knex, changes: readonly NewChange[]): Promise<void> {
  await insertRows(
    trx,
    'change',
    {
      person_id: 'bigint',
      organisation_id: 'bigint',
      premises_id: 'bigint',
      kind_id: 'bigint',
      field: 'text',
      from_entry: 'bigint',
      entry_id: 'bigint',
      reports: 'bigint[]',
      sources: 'int',
      after_day: 'date',
      by_day: 'date',
      sure: 'text',
      learned_at: 'timestamptz',
    },
    changes.map((c) => ({
      person_id: null,
      organisation_id: null,
      premises_id: null,
      [SUBJECT_COLUMN[c.of]]: c.subject,
      ...columnsOf(c),
    })),
  )
}

/** Makes a stored change what it is read as now. One that was gone counts again. Those told already are told again where what it is changed. */
export async function updateChange(trx: Knex, id: number, change: NewChange, again: boolean): Promise<void> {
  await trx('told')
    .where({ change_id: id })
    .update({ learned_at: new Date(change.learnedAt) })
  await trx('change')
    .where({ id })
    .update({
      ...columnsOf(change),
      [SUBJECT_COLUMN[change.of]]: change.subject,
      gone_at: null,
      gone_why: null,
      ...(again ? { told_at: null } : {}),
    })
}

/** Changes that count no more, since an instant. */
export async function changesGone(trx: Knex, ids: readonly number[], why: string, at: Date): Promise<void> {
  if (ids.length === 0) return
  await trx('change')
    .whereIn('id', [...ids])
    .update({ gone_at: trx.raw('coalesce(gone_at, ?)', [at]), gone_why: why })
}

/** The changes of one record that count, the latest first: so many at most. */
export async function changesOfRecord(trx: Knex, of: Subject, id: number, most: number): Promise<number[]> {
  return await trx('change')
    .where({ [SUBJECT_COLUMN[of]]: id })
    .whereNull('gone_at')
    .orderBy([
      { column: 'by_day', order: 'desc' },
      { column: 'id', order: 'desc' },
    ])
    .limit(most)
    .pluck('id')
}

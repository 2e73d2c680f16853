import { ASKS } from '@/core/changes/asks'
import { NO_DAY, packWhat } from '@/core/columns/change-rows'
import type { Directory } from '@/core/columns/directory'
import { CHANGE_STATES, type ChangeState, type RecordChange } from '@/core/records/record-change'
import { type Subject, SUBJECTS } from '@/core/records/subject'
import type { Knex } from '@/db/connection'
import { copyRows } from '@/db/copy-rows'
import { SUBJECT_COLUMN } from './change-rows'

/** The source of one report: a feed, a file, the contacts, or whoever keeps the directory. */
const SOURCE = (entry: string, report: string, batch: string) =>
  `coalesce(${report}.source, ${batch}.file_name, case when ${entry}.kind = 'contact' then 'contacts' else 'entered by hand' end)`
const TEXT = (value: string) => `nullif(concat_ws(E'\\n', ${value}.note, ${value}.after), '')`
/** Values of fields are asked for by their own criteria; a new role or organisation is news all the same. */
const HAS_TEXT = `(c.field is null or c.field in ('role', 'organisation'))`
/** One report is found by joins, which load millions; of several, each is looked up. */
const CHANGES = `from change c join change_kind k on k.id = c.kind_id join entry e on e.id = c.entry_id left join report r on r.entry_id = c.entry_id
  left join batch b on b.id = e.batch_id left join entry_value v on v.id = e.value_id and ${HAS_TEXT}`
const OF_SEVERAL = (what: string) =>
  `(select string_agg(distinct ${what}, E'\\nand\\n' order by ${what}) from entry f left join report s on s.entry_id = f.id left join batch d on d.id = f.batch_id
      left join entry_value w on w.id = f.value_id and ${HAS_TEXT} where f.id = any(c.reports))`
const TOLD = `case when cardinality(c.reports) = 1 then ${SOURCE('e', 'r', 'b')} else ${OF_SEVERAL(SOURCE('f', 's', 'd'))} end as sources,
  case when cardinality(c.reports) = 1 then ${TEXT('v')} else ${OF_SEVERAL(TEXT('w'))} end as text`

/** The changes of some records that count, as criteria ask of them; the oldest first. */
export async function changesOfRecords(trx: Knex, of: Subject, ids: readonly number[]): Promise<Map<number, RecordChange[]>> {
  const found = new Map<number, RecordChange[]>()
  if (ids.length === 0) return found
  const { rows } = await trx.raw<{
    rows: {
      record: number
      kind: number
      asks: RecordChange['asks']
      after: string | null
      by: string
      learned: Date
      state: ChangeState
      sources: string
      text: string | null
    }[]
  }>(
    `select c.${SUBJECT_COLUMN[of]} as record, c.kind_id as kind, k.asks, c.after_day as after, c.by_day as by, c.learned_at as learned, c.state,
       ${TOLD}
     ${CHANGES} where c.${SUBJECT_COLUMN[of]} = any(?::bigint[]) and c.gone_at is null order by c.id`,
    [[...ids]],
  )
  for (const { record, learned, ...change } of rows)
    found.set(record, [...(found.get(record) ?? []), { ...change, learnedAt: learned.getTime() }])
  return found
}

const CODE = (words: readonly string[], column: string) =>
  `(case ${column} ${words.map((word, i) => `when '${word}' then ${i}`).join(' ')} end)`
const DAYS = (column: string) => `coalesce(${column} - date '1970-01-01', ${NO_DAY})`

/** Reads the changes that count of every record straight into columns that hold none yet. `trx` must be a transaction. */
export async function readChangeColumns(trx: Knex, directory: Directory): Promise<void> {
  for (const of of SUBJECTS) {
    const columns = directory.of(of)
    const rows = columns.changes.loader()
    const words = columns.changeWords
    const own = SUBJECT_COLUMN[of]
    await copyRows(
      trx,
      `select c.${own}, c.kind_id, ${CODE(ASKS, 'k.asks')}::int4, ${CODE(CHANGE_STATES, 'c.state')}::int4, (${DAYS('c.after_day')})::int4, (${DAYS('c.by_day')})::int4,
         (extract(epoch from c.learned_at) * 1000)::float8, ${TOLD}
       ${CHANGES} where c.${own} is not null and c.gone_at is null order by c.id`,
      (row) => {
        const n = columns.numberFor(row.int8())
        const kind = row.int8()
        const what = packWhat(row.int4(), row.int4())
        const [after, by] = [row.int4(), row.int4()]
        const learned = row.float8() as number
        row.span()
        const sources = words.sources.codeOfBytes(row.bytes, row.from, row.length)
        row.span()
        const text = row.length < 0 ? -1 : words.texts.codeOfBytes(row.bytes, row.from, row.length)
        if (n !== undefined) rows.add(n, 0, kind, what, after, by, learned, sources, text)
      },
    )
    rows.done()
  }
}

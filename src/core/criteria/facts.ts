import { type CustomKey, customKey } from '../clean/custom'
import { Bitset } from '../columns/bitset'
import type { SubjectColumns } from '../columns/subject-columns'
import type { SubjectRecord } from '../records/subject-record'
import type { WordColumn } from '../columns/words'
import {
  type About,
  type Answer,
  type AskedColumns,
  type AskedField,
  byWord,
  type CriterionKind,
  type Group,
  type RecordOf,
  type Verdict,
} from './kind'

/** Where a fact stands: in a record, and in the columns. A column that is not there holds nothing of anybody. */
export interface Fact<A extends About> {
  value(record: RecordOf[A]): string | null
  column(columns: AskedColumns[A]): WordColumn | undefined
  asks: AskedField
}

/** A fact that stands in one of the fields by number. */
export function fieldFact<A extends About>(id: number): Fact<A> {
  return {
    value: (record) => (record as SubjectRecord).custom[id] ?? null,
    column: (columns) => (columns as SubjectColumns).custom.get(id),
    asks: customKey(id) satisfies CustomKey,
  }
}

/** A fact that is a column of words of its own. */
export function wordFact<A extends About>(
  asks: AskedField,
  value: (record: RecordOf[A]) => string | null,
  column: (columns: AskedColumns[A]) => WordColumn,
): Fact<A> {
  return { value, column, asks }
}

export interface Told<K extends string, A extends About> {
  kind: K
  of: A
  group: Group
  name: string
  synonyms: readonly string[]
  inName: CriterionKind<unknown>['inName']
  single?: boolean
  /** Known of every record, so that none is unknown. */
  knownOfAll?: true
  fact: Fact<A>
}

/** What each word of a column answers; everybody is unknown where there is no column. */
export function byFact<A extends About>(fact: Fact<A>, columns: AskedColumns[A], holds: (value: string) => boolean): Answer {
  return byColumn(fact, columns, (column) => column.words.map(holds))
}

/** Answers a question about a column of words. A column that is not there is unknown for everyone. */
export function byColumn<A extends About>(
  fact: Fact<A>,
  columns: AskedColumns[A],
  asked: (column: WordColumn) => Parameters<typeof byWord>[2],
): Answer {
  const column = fact.column(columns)
  const { live, size } = columns as SubjectColumns
  return column ? byWord(columns as SubjectColumns, column, asked(column)) : { yes: new Bitset(size), unknown: live.clone() }
}

/** Returns yes or no for a value, and unknown where the value is missing. */
export function verdictOf(value: string | null, holds: (value: string) => boolean): Verdict {
  return value === null ? 'unknown' : holds(value) ? 'yes' : 'no'
}

import { array, number, object, string } from 'yup'
import { localDate } from '../calendar/local-day'
import { type CustomKey, customKey } from '../clean/custom'
import { fold } from '../clean/fold'
import { Bitset } from '../columns/bitset'
import type { SubjectColumns } from '../columns/subject-columns'
import type { SubjectRecord } from '../columns/subject-record'
import type { WordColumn } from '../columns/words'
import {
  type About,
  type Answer,
  type AskedColumns,
  type AskedField,
  byWord,
  chips,
  type CriterionKind,
  type Form,
  type Group,
  type KnownWord,
  type Moment,
  type RangeBand,
  rangeText,
  type RecordOf,
  steady,
  type Verdict,
  namesNothing,
} from './kind'
import { saying, says, stems } from './wording'

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

interface Told<K extends string, A extends About> {
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
function byFact<A extends About>(fact: Fact<A>, columns: AskedColumns[A], holds: (value: string) => boolean): Answer {
  return byColumn(fact, columns, (column) => column.words.map(holds))
}

function byColumn<A extends About>(
  fact: Fact<A>,
  columns: AskedColumns[A],
  asked: (column: WordColumn) => Parameters<typeof byWord>[2],
): Answer {
  const column = fact.column(columns)
  const { live, size } = columns as SubjectColumns
  return column ? byWord(columns as SubjectColumns, column, asked(column)) : { yes: new Bitset(size), unknown: live.clone() }
}

function verdictOf(value: string | null, holds: (value: string) => boolean): Verdict {
  return value === null ? 'unknown' : holds(value) ? 'yes' : 'no'
}

export interface AnyCriterion<K extends string> {
  kind: K
  any: string[]
}

/** Any of several values, compared folded. `several`: a value holds more than one, set apart by semicolons. */
export function anyOf<K extends string, A extends About>({
  kind,
  of,
  group,
  name,
  synonyms,
  inName,
  single = false,
  fact,
  says: said,
  all,
  known,
  several,
  hint,
}: Told<K, A> & { says: string; all?: readonly string[]; known?: KnownWord; several?: true; hint?: string }): CriterionKind<
  AnyCriterion<K>,
  A
> {
  const one = all ? string().oneOf(all).required() : string().trim().max(120).required()
  const test = ({ any }: AnyCriterion<K>) => {
    const asked = new Set(any.map(fold))
    return several ? (value: string) => value.split(';').some((part) => asked.has(fold(part))) : (value: string) => asked.has(fold(value))
  }
  return {
    name,
    synonyms,
    inName,
    single,
    probe: { kind, any: [all?.[0] ?? '?'] },
    named: namesNothing,
    of,
    group,
    schema: object({
      kind: string()
        .oneOf([kind as string])
        .required(),
      any: array(one).min(1, 'choose at least one').max(60).required(),
    }).noUnknown() as never,
    blank: { kind, any: [] },
    whose: true,
    form: all
      ? { of: 'choices', legend: name, all, ...(hint ? { hint } : {}) }
      : ({ of: 'words', label: name, ...(known ? { known } : {}), ...(hint ? { hint } : {}) } satisfies Form),
    sentence: ({ any }) => [{ text: said }, ...chips(any, 'any', 'which?')],
    asks: () => [fact.asks],
    varies: steady,
    verdict: (criterion, record) => verdictOf(fact.value(record), test(criterion)),
    evaluate: (criterion, columns) => byFact(fact, columns, test(criterion)),
  }
}

export interface SaysCriterion<K extends string> {
  kind: K
  any: string[]
  all: string[]
  none: string[]
}

/**
 * Words or phrases by their stems: any of some, all of some, none of some. A phrase stands in its order, its words side by
 * side. Where `also` names other facts, a phrase may stand in any of them: found is yes; not found is no where the fact itself
 * is known, and unknown where it is missing. Several phrases go together by three values, so *none of* is the contrary of *any of*.
 */
export function saysWords<K extends string, A extends About>({
  kind,
  of,
  group,
  name,
  synonyms,
  inName,
  single = false,
  fact,
  also = [],
  says: said,
  hint,
}: Told<K, A> & { also?: Fact<A>[]; says: string; hint?: string }): CriterionKind<SaysCriterion<K>, A> {
  const words = () => array(string().trim().max(120).required()).max(60).required()
  const holds = (phrase: string) => {
    const stem = stems(phrase)
    return (value: string) => says(stems(value), stem)
  }
  return {
    name,
    synonyms,
    inName,
    single,
    probe: { kind, any: ['?'], all: [], none: [] },
    named: namesNothing,
    of,
    group,
    schema: object({
      kind: string()
        .oneOf([kind as string])
        .required(),
      any: words(),
      all: words(),
      none: words(),
    })
      .noUnknown()
      .test('some', 'name at least one word', (v) => v.any.length + v.all.length + v.none.length > 0) as never,
    blank: { kind, any: [], all: [], none: [] },
    whose: true,
    form: { of: 'says', ...(hint ? { hint } : {}) },
    sentence: ({ any, all, none }) => [
      { text: said },
      ...(any.length > 0 || all.length + none.length === 0 ? chips(any, 'any', 'which words?') : []),
      ...(all.length > 0 ? [{ text: any.length > 0 ? 'and all of' : 'all of' }, { chip: all.join(', '), field: 'all' }] : []),
      ...(none.length > 0 ? [{ text: any.length + all.length > 0 ? 'but not' : 'none of' }, { chip: none.join(', '), field: 'none' }] : []),
    ],
    asks: () => [fact, ...also].map((f) => f.asks),
    varies: steady,
    verdict({ any, all, none }, record) {
      const phrase = (p: string): Verdict => {
        const found = [fact, ...also].some((f) => verdictOf(f.value(record), holds(p)) === 'yes')
        return found ? 'yes' : fact.value(record) === null ? 'unknown' : 'no'
      }
      const parts = [...(any.length > 0 ? [eitherOf(any.map(phrase))] : []), ...all.map(phrase), ...none.map((p) => contrary(phrase(p)))]
      return parts.includes('no') ? 'no' : parts.includes('unknown') ? 'unknown' : 'yes'
    },
    evaluate({ any, all, none }, columns) {
      const { live, size } = columns as SubjectColumns
      const phrase = (p: string): Answer => {
        const says = (f: Fact<A>) => byColumn(f, columns, (column) => saying(column, [p]))
        const own = says(fact)
        const yes = also.reduce((found, f) => found.or(says(f).yes), own.yes)
        return { yes, unknown: own.unknown.andNot(yes) }
      }
      const parts = [
        ...(any.length > 0 ? [any.map(phrase).reduce((a, b) => union(a, b))] : []),
        ...all.map(phrase),
        ...none.map((p) => turned(phrase(p), live)),
      ]
      return parts.reduce((a, b) => meet(a, b), { yes: live.clone(), unknown: new Bitset(size) })
    },
  }
}

const eitherOf = (verdicts: Verdict[]): Verdict => (verdicts.includes('yes') ? 'yes' : verdicts.includes('unknown') ? 'unknown' : 'no')
const contrary = (verdict: Verdict): Verdict => (verdict === 'yes' ? 'no' : verdict === 'no' ? 'yes' : 'unknown')

// The same for everybody at once. Source of the three values: S. C. Kleene, Introduction to Metamathematics, 1952, section 64.
function union(a: Answer, b: Answer): Answer {
  const yes = a.yes.or(b.yes)
  return { yes, unknown: a.unknown.or(b.unknown).andNot(yes) }
}
function meet(a: Answer, b: Answer): Answer {
  const yes = a.yes.and(b.yes)
  return { yes, unknown: a.yes.or(a.unknown).and(b.yes.or(b.unknown)).andNot(yes) }
}
const turned = ({ yes, unknown }: Answer, live: Bitset): Answer => ({ yes: live.andNot(yes).andNot(unknown), unknown })

export interface RangeCriterion<K extends string> {
  kind: K
  least: number | null
  most: number | null
}

/** The schema of a range: at least one end, the lower one first. */
export function rangeSchema<K extends string>(kind: K, lowest = Number.NEGATIVE_INFINITY, highest = Number.POSITIVE_INFINITY) {
  const end = () => number().min(lowest, `no less than ${lowest}`).max(highest, `no more than ${highest}`).nullable().defined()
  return object({
    kind: string()
      .oneOf([kind as string])
      .required(),
    least: end(),
    most: end(),
  })
    .noUnknown()
    .test('ends', 'say at least how much, or at most', (v) => v.least !== null || v.most !== null)
    .test('order', 'the least is more than the most', (v) => v.least === null || v.most === null || v.least <= v.most)
}

export const within = ({ least, most }: { least: number | null; most: number | null }, value: number): boolean =>
  (least === null || value >= least) && (most === null || value <= most)

const figure = (unit: string, plain: boolean) => (value: number | null) =>
  value === null ? null : `${plain ? value : value.toLocaleString('en-GB')}${unit}`

/** A number between two ends, both included, either of them open. `plain`: written without thousands, as a year is. */
export function range<K extends string, A extends About>({
  kind,
  of,
  group,
  name,
  synonyms,
  inName,
  single = false,
  knownOfAll,
  says: said,
  unit = '',
  plain = false,
  ends,
  fact,
  number: own,
  lowest,
  hint,
  bands,
}: Omit<Told<K, A>, 'fact'> & {
  says: string
  unit?: string
  plain?: boolean
  ends?: readonly [string, string]
  fact?: Fact<A>
  /** A number that is no column of words: of a record, and of a record number of the columns; null is missing. */
  number?: { asks: AskedField; value(record: RecordOf[A]): number | null; at(columns: AskedColumns[A]): (n: number) => number | null }
  lowest?: number
  hint?: string
  bands?: readonly RangeBand[]
}): CriterionKind<RangeCriterion<K>, A> {
  const text = figure(unit, plain)
  return {
    name,
    synonyms,
    inName,
    single,
    probe: knownOfAll ? null : { kind, least: 0, most: null },
    named: namesNothing,
    of,
    group,
    schema: rangeSchema(kind, lowest) as never,
    blank: { kind, least: null, most: null },
    whose: true,
    form: { of: 'range', label: name, unit: unit.trim(), ...(hint ? { hint } : {}), ...(bands ? { bands } : {}) },
    sentence: ({ least, most }) => [{ text: said }, { chip: rangeText(text(least), text(most), ends), field: 'least' }],
    asks: () => [own ? own.asks : (fact as Fact<A>).asks],
    varies: steady,
    verdict(criterion, record) {
      const value = own ? own.value(record) : numberOf((fact as Fact<A>).value(record))
      return value === null ? 'unknown' : within(criterion, value) ? 'yes' : 'no'
    },
    evaluate(criterion, columns) {
      if (!own) return byFact(fact as Fact<A>, columns, (value) => within(criterion, Number(value)))
      const at = own.at(columns)
      return (columns as SubjectColumns).live.split((n) => {
        const value = at(n)
        return value === null ? 2 : within(criterion, value) ? 1 : 0
      })
    },
  }
}

const numberOf = (value: string | null) => (value === null ? null : Number(value))

export interface TimeCriterion<K extends string> {
  kind: K
  /** Whole months between the date and the day that is asked on, both ends included. */
  least: number | null
  most: number | null
  /** Or the date itself, from and to, both included, as YYYY-MM-DD. */
  from: string | null
  to: string | null
}

/** How long ago a date is, in months, or between which dates it lies. */
export function since<K extends string, A extends About>({
  kind,
  of,
  group,
  name,
  synonyms,
  inName,
  single = false,
  fact,
  says: said,
  between,
  hint,
}: Told<K, A> & { says: string; between: string; hint?: string }): CriterionKind<TimeCriterion<K>, A> {
  const date = () =>
    string()
      .matches(/^\d{4}-\d\d-\d\d$/, 'a date is year-month-day')
      .nullable()
      .defined()
  const months = () => number().integer('whole months').min(0).max(1200).nullable().defined()
  const test = ({ least, most, from, to }: TimeCriterion<K>, { asOf, zone }: Moment) => {
    const today = localDate(asOf, zone)
    // At least so many months: not later than that many months before today; at most: later than the next month on would be.
    const [latest, earliest] = [least === null ? null : monthsBefore(today, least), most === null ? null : monthsBefore(today, most + 1)]
    return (value: string) =>
      (latest === null || value <= latest) &&
      (earliest === null || value > earliest) &&
      (from === null || value >= from) &&
      (to === null || value <= to)
  }
  return {
    name,
    synonyms,
    inName,
    single,
    probe: { kind, least: 0, most: null, from: null, to: null },
    named: namesNothing,
    of,
    group,
    schema: object({
      kind: string()
        .oneOf([kind as string])
        .required(),
      least: months(),
      most: months(),
      from: date(),
      to: date(),
    })
      .noUnknown()
      .test('some', 'say how long, or between which dates', (v) => [v.least, v.most, v.from, v.to].some((end) => end !== null))
      .test('order', 'the earlier date comes first', (v) => v.from === null || v.to === null || v.from <= v.to) as never,
    blank: { kind, least: null, most: null, from: null, to: null },
    whose: true,
    form: { of: 'time', label: name, ...(hint ? { hint } : {}) },
    sentence: ({ least, most, from, to }) =>
      from !== null || to !== null
        ? [{ text: between }, { chip: rangeText(from, to, ['or later', 'or earlier']), field: 'from' }]
        : [{ text: said }, { chip: rangeText(spanText(least), spanText(most)), field: 'least' }],
    asks: () => [fact.asks],
    varies: ({ least, most }, { asOf, zone }) => (least === null && most === null ? '' : localDate(asOf, zone)),
    verdict: (criterion, record, moment) => verdictOf(fact.value(record), test(criterion, moment)),
    evaluate: (criterion, columns, moment) => byFact(fact, columns, test(criterion, moment)),
  }
}

function spanText(months: number | null): string | null {
  if (months === null) return null
  if (months % 12 === 0 && months > 0) return months === 12 ? '1 year' : `${months / 12} years`
  return months === 1 ? '1 month' : `${months} months`
}

/** The same day so many months before a date, the last of the month where it has no such day. */
export function monthsBefore(date: string, months: number): string {
  const [year, month, day] = date.split('-').map(Number)
  const index = year * 12 + (month - 1) - months
  const [y, m] = [Math.floor(index / 12), index % 12]
  const last = new Date(Date.UTC(y, m + 1, 0)).getUTCDate()
  return `${String(y).padStart(4, '0')}-${String(m + 1).padStart(2, '0')}-${String(Math.min(day, last)).padStart(2, '0')}`
}

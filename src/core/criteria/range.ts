import { number, object, string } from 'yup'
import type { SubjectColumns } from '../columns/subject-columns'
import {
  type About,
  type AskedColumns,
  type AskedField,
  type CriterionKind,
  type RangeBand,
  rangeText,
  type RecordOf,
  steady,
  namesNothing,
} from './kind'
import { type Fact, type Told, byFact } from './facts'
import { numberOf } from './since'
import type { FieldUnit } from '../clean/standard-fields'
import { numberText } from '../text/field-text'
import { type Quantity, quantityText, type Unit, unitsOf } from '../text/units'

export interface RangeCriterion<K extends string> {
  kind: K
  least: number | null
  most: number | null
  /** Of a quantity: the unit its ends were told in, where that is not the one they are kept in. */
  unit?: Unit
}

/** The schema of a range: at least one end, the lower one first. */
export function rangeSchema<K extends string>(
  kind: K,
  lowest = Number.NEGATIVE_INFINITY,
  highest = Number.POSITIVE_INFINITY,
  quantity?: Quantity,
) {
  const end = () => number().min(lowest, `no less than ${lowest}`).max(highest, `no more than ${highest}`).nullable().defined()
  return object({
    kind: string()
      .oneOf([kind as string])
      .required(),
    least: end(),
    most: end(),
    ...(quantity ? { unit: string().oneOf(unitsOf(quantity)).optional() } : {}),
  })
    .noUnknown()
    .test('ends', 'say at least how much, or at most', (v) => v.least !== null || v.most !== null)
    .test('order', 'the least is more than the most', (v) => v.least === null || v.most === null || v.least <= v.most)
}

/** Whether a value lies between two ends, both included; null is an open end. */
export const within = ({ least, most }: { least: number | null; most: number | null }, value: number): boolean =>
  (least === null || value >= least) && (most === null || value <= most)

/** A number between two ends, both included, either of them open. */
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
  unit,
  ends,
  fact,
  number: own,
  lowest,
  hint,
  bands,
}: Omit<Told<K, A>, 'fact'> & {
  says: string
  unit?: FieldUnit
  ends?: readonly [string, string]
  fact?: Fact<A>
  /** A number that is no column of words: of a record, and of a record number of the columns; null is missing. */
  number?: { asks: AskedField; value(record: RecordOf[A]): number | null; at(columns: AskedColumns[A]): (n: number) => number | null }
  lowest?: number
  hint?: string
  bands?: readonly RangeBand[]
}): CriterionKind<RangeCriterion<K>, A> {
  const quantity = unit === 'm²' ? unit : undefined
  return {
    name,
    synonyms,
    inName,
    single,
    probe: knownOfAll ? null : { kind, least: 0, most: null },
    named: namesNothing,
    of,
    group,
    schema: rangeSchema(kind, lowest, undefined, quantity) as never,
    blank: { kind, least: null, most: null },
    whose: true,
    form: { of: 'range', label: name, unit, ...(hint ? { hint } : {}), ...(bands ? { bands } : {}) },
    sentence: ({ least, most, unit: told }) => {
      const text = (value: number | null) =>
        value === null ? null : quantity ? quantityText(quantity, value, told) : numberText(value, unit)
      return [{ text: said }, { chip: rangeText(text(least), text(most), ends), field: 'least' }]
    },
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

import { number, object, string } from 'yup'
import { localDate, monthsBefore } from '../calendar/local-day'
import { dateText } from '../text/written'
import { type About, type CriterionKind, type Moment, rangeText, namesNothing } from './kind'
import { type Told, byFact, verdictOf } from './facts'

/** Returns a number that is stored as text; null where it is missing. */
export const numberOf = (value: string | null) => (value === null ? null : Number(value))

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
        ? [{ text: between }, { chip: rangeText(from && dateText(from), to && dateText(to), ['or later', 'or earlier']), field: 'from' }]
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

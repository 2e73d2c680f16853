import { type InferType, mixed, number, object, string } from 'yup'
import { customKey } from '../clean/custom'
import { FIELD } from '../clean/standard-fields'
import { type CriterionKind, rangeText, steady, namesNothing } from './kind'

const percent = () => number().min(-1000).max(1000).nullable().defined()

const schema = object({
  kind: string()
    .oneOf(['equity'] as const)
    .required(),
  /** By which of its two names the fact is asked for; the ends are in per cent of that. */
  as: mixed<'equity' | 'loan-to-value'>().oneOf(['equity', 'loan-to-value']).required(),
  least: percent(),
  most: percent(),
})
  .noUnknown()
  .test('ends', 'say at least how much, or at most', (v) => v.least !== null || v.most !== null)
  .test('order', 'the least is more than the most', (v) => v.least === null || v.most === null || v.least <= v.most)
export type EquityCriterion = InferType<typeof schema>

/** The same question by the other name: equity of at least 40 % is a loan-to-value of at most 60 %. */
export function byOtherName({ as, least, most, ...rest }: EquityCriterion): EquityCriterion {
  return {
    ...rest,
    as: as === 'equity' ? 'loan-to-value' : 'equity',
    least: most === null ? null : 100 - most,
    most: least === null ? null : 100 - least,
  }
}

/**
 * Equity, or loan-to-value, which is one fact with two names: equity = 100 % − loan ÷ value. Loan-to-value = loan ÷ value
 * (common practice, no source). Unknown where the value or the loan is missing, or the value is nothing.
 */
export const equity: CriterionKind<EquityCriterion, 'premises'> = {
  name: 'Equity or loan-to-value',
  synonyms: ['ltv', 'mortgage', 'loan to value', 'home equity'],
  inName: { before: 'equity', after: '' },
  single: false,
  probe: { kind: 'equity', as: 'equity', least: 0, most: null },
  named: namesNothing,
  of: 'premises',
  group: 'premises',
  schema,
  blank: { kind: 'equity', as: 'equity', least: null, most: null },
  whose: true,
  sentence(c) {
    const text = ({ least, most }: EquityCriterion) => rangeText(least === null ? null : `${least} %`, most === null ? null : `${most} %`)
    const other = byOtherName(c)
    return [
      { text: c.as === 'equity' ? 'equity is' : 'loan-to-value is' },
      { chip: text(c), field: 'least' },
      ...(c.least === null && c.most === null ? [] : [{ text: `(${other.as === 'equity' ? 'equity' : 'loan-to-value'} ${text(other)})` }]),
    ]
  },
  asks: () => [customKey(FIELD.value), customKey(FIELD.loan)],
  varies: steady,
  verdict(c, { custom }) {
    const found = loanToValue(custom[FIELD.value], custom[FIELD.loan])
    return found === null ? 'unknown' : asked(c)(found) ? 'yes' : 'no'
  },
  evaluate(c, columns) {
    const [values, loans] = [columns.custom.get(FIELD.value), columns.custom.get(FIELD.loan)]
    const holds = asked(c)
    return columns.live.split((n) => {
      const found = loanToValue(values?.get(n) ?? undefined, loans?.get(n) ?? undefined)
      return found === null ? 2 : holds(found) ? 1 : 0
    })
  },
}

/** Loan over value in per cent; null where either is missing. */
export function loanToValue(value: string | undefined, loan: string | undefined): number | null {
  if (value === undefined || loan === undefined || Number(value) <= 0) return null
  return (Number(loan) / Number(value)) * 100
}

/** The question as one about loan-to-value, by whichever name it was asked. */
function asked(c: EquityCriterion): (loanToValue: number) => boolean {
  const { least, most } = c.as === 'loan-to-value' ? c : byOtherName(c)
  // A hair's breadth for 0.1 + 0.2: ends are included.
  return (found) => (least === null || found >= least - 1e-9) && (most === null || found <= most + 1e-9)
}

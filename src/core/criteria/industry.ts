import { array, type InferType, object, string } from 'yup'
import { fold } from '../clean/fold'
import { byWord, type CriterionKind, chips, steady, namesNothing } from './kind'

const schema = object({
  kind: string()
    .oneOf(['industry'] as const)
    .required(),
  any: array(string().trim().max(80).required()).min(1, 'name at least one industry').max(60).required(),
}).noUnknown()
export type IndustryCriterion = InferType<typeof schema>

/** What the organisation is: a school, a clinic, a brewery. No organisation, or one whose industry was never told, is unknown. */
export const industry: CriterionKind<IndustryCriterion, 'organisation'> = {
  name: 'Organisation’s industry',
  synonyms: ['sector', 'vertical', 'line of business', 'trade', 'business type', 'company industry'],
  inName: { before: '', after: '' },
  single: true,
  probe: { kind: 'industry', any: ['?'] },
  named: namesNothing,
  of: 'organisation',
  group: 'their organisation',
  schema,
  blank: { kind: 'industry', any: [] },
  whose: true,
  sentence: ({ any }) => [{ text: 'organisation is a' }, ...chips(any, 'any', 'which?')],
  asks: () => ['industry'],
  varies: steady,
  verdict: ({ any }, record) => (record.industry === null ? 'unknown' : any.map(fold).includes(fold(record.industry)) ? 'yes' : 'no'),
  evaluate({ any }, columns) {
    const asked = new Set(any.map(fold))
    return byWord(
      columns,
      columns.industry,
      columns.industry.derived(fold).map((word) => asked.has(word)),
    )
  },
}

import { array, type InferType, object, string } from 'yup'
import { fold } from '../clean/fold'
import { byWord, type CriterionKind, chips, steady, namesNothing } from './kind'

const schema = object({
  kind: string()
    .oneOf(['county'] as const)
    .required(),
  any: array(string().trim().max(80).required()).min(1, 'name at least one county').max(60).required(),
}).noUnknown()
export type CountyCriterion = InferType<typeof schema>

/** The county of the person's own address, else of their organisation's. A missing county is unknown. */
export const county: CriterionKind<CountyCriterion, 'any'> = {
  name: 'County',
  synonyms: ['state', 'province', 'shire'],
  inName: { before: 'in', after: '' },
  single: true,
  probe: { kind: 'county', any: ['?'] },
  named: namesNothing,
  of: 'any',
  group: 'where',
  schema,
  blank: { kind: 'county', any: [] },
  whose: true,
  sentence: ({ any }) => [{ text: 'county is' }, ...chips(any, 'any', 'which?')],
  asks: () => ['county'],
  varies: steady,
  verdict: ({ any }, record) => (record.county === null ? 'unknown' : any.map(fold).includes(fold(record.county)) ? 'yes' : 'no'),
  evaluate({ any }, columns) {
    const asked = new Set(any.map(fold))
    return byWord(
      columns,
      columns.county,
      columns.county.derived(fold).map((word) => asked.has(word)),
    )
  },
}

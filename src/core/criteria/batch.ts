import { type InferType, number, object, string } from 'yup'
import { Bitset } from '../columns/bitset'
import { type CriterionKind, steady } from './kind'

const schema = object({
  kind: string()
    .oneOf(['batch'] as const)
    .required(),
  batch: object({ id: number().integer().positive('choose a batch').required(), name: string().required() }).required(),
}).noUnknown()
export type BatchCriterion = InferType<typeof schema>

/** Stood in a batch, whether it brought them in or found them known already. Never unknown. */
export const batch: CriterionKind<BatchCriterion, 'any'> = {
  name: 'From a batch',
  synonyms: ['imported from', 'import', 'file', 'upload', 'source file'],
  inName: { before: 'from', after: '' },
  single: false,
  probe: null,
  named: (c, call) => ({ ...c, batch: call(c.batch, { what: 'batch' }) }),
  of: 'any',
  group: 'lists',
  schema,
  blank: { kind: 'batch', batch: { id: 0, name: '' } },
  sentence: ({ batch: { name } }) => [{ text: 'was in the file' }, { chip: name || 'which file?', field: 'batch' }],
  asks: () => ['batch'],
  varies: steady,
  verdict: (c, record) => (record.batches.includes(c.batch.id) ? 'yes' : 'no'),
  evaluate: (c, columns) => ({
    yes: (columns.batches.get(c.batch.id) ?? new Bitset()).and(columns.live),
    unknown: new Bitset(columns.size),
  }),
}

import { array, type InferType, object, string } from 'yup'
import { byWord, chips, type CriterionKind, namesNothing, steady } from './kind'
import { RELATIONS } from '../records/relations'

const schema = object({
  kind: string()
    .oneOf(['relation'] as const)
    .required(),
  any: array(string().oneOf(RELATIONS).required()).min(1, 'choose at least one relation').required(),
}).noUnknown()
export type RelationCriterion = InferType<typeof schema>

/** How they stand to us. A person whose relation was never told is unknown. */
export const relation: CriterionKind<RelationCriterion> = {
  name: 'Relation to us',
  synonyms: ['customer', 'client', 'prospect', 'lead', 'lifecycle', 'status', 'partner', 'do not contact', 'existing customer'],
  inName: { before: '', after: '' },
  single: true,
  probe: { kind: 'relation', any: ['customer'] },
  named: namesNothing,
  of: 'person',
  group: 'who they are',
  schema,
  blank: { kind: 'relation', any: [] },
  whose: true,
  sentence: ({ any }) => [{ text: 'relation to us is' }, ...chips(any, 'any', 'which?')],
  asks: () => ['relation'],
  varies: steady,
  verdict: ({ any }, record) => (record.relation === null ? 'unknown' : any.includes(record.relation) ? 'yes' : 'no'),
  evaluate: ({ any }, columns) =>
    byWord(
      columns,
      columns.relation,
      columns.relation.words.map((word) => (any as string[]).includes(word)),
    ),
}

import { array, boolean, type InferType, object, string } from 'yup'
import { markRows, type RuleKind, ruleParts } from './kind'
import { RELATIONS } from '../records/relations'

const schema = object({
  ...ruleParts,
  kind: string()
    .oneOf(['customers'] as const)
    .required(),
  off: boolean().default(false),
  relations: array(string().oneOf(RELATIONS).required()).min(1).required(),
}).noUnknown()
export type CustomersRule = InferType<typeof schema>

/** Customers and our own people, on every channel. A person whose relation is unknown stays. */
export const customers: RuleKind<CustomersRule> = {
  name: 'Customers and our own people',
  about: 'closes people by their relation to us',
  schema,
  usual: { off: false, relations: ['customer', 'our own people'] },
  form: [{ key: 'relations', label: 'Relations that are held back', is: 'some', of: RELATIONS.map((relation) => [relation, relation]) }],
  optional: true,
  sentence: () => [{ text: 'Customers and our own people' }],
  note: () => 'by their relation to us; an unknown relation stays',
  closes: ({ relations }, record) =>
    record.relation !== null && relations.includes(record.relation) ? { kind: 'relation', relation: record.relation } : null,
  mark({ relations }, columns, listed, _moment, { ours: rows }) {
    const asked = columns.relation.words.map((word) => (relations as string[]).includes(word))
    listed.forEach((n) => {
      const code = columns.relation.codeAt(n)
      if (code >= 0 && asked[code]) markRows(columns, n, rows)
    })
  },
}

import { array, boolean, type InferType, object, string } from 'yup'
import { markRows, type RuleKind, ruleParts } from './kind'
import { RELATIONS } from '../records/relations'

const schema = object({
  ...ruleParts,
  kind: string()
    .oneOf(['customers'] as const)
    .required(),
  off: boolean().default(false),
  relations: array(string().oneOf(RELATIONS).required()).min(1, 'choose at least one relation').required(),
  /** What becomes of somebody whose relation is unknown; they stay where it is not said. */
  unknown: string()
    .oneOf(['stays', 'is held back'] as const)
    .optional(),
}).noUnknown()
export type CustomersRule = InferType<typeof schema>

/** What the rule is called by whom it holds back. */
function named({ relations }: CustomersRule): string {
  const usual = relations.length === 2 && relations.includes('customer') && relations.includes('our own people')
  return usual ? 'Customers and our own people' : `Relation to us: ${relations.join(', ')}`
}

/** Customers, our own people or others by their relation to us, on every channel. Whose relation is unknown stays, unless the rule says otherwise. */
export const customers: RuleKind<CustomersRule> = {
  name: 'Relation to us',
  about: 'closes people by their relation to us',
  schema,
  usual: { off: false, relations: ['customer', 'our own people'] },
  form: [
    { key: 'relations', label: 'Relations that are held back', is: 'some', of: RELATIONS.map((relation) => [relation, relation]) },
    {
      key: 'unknown',
      label: 'Somebody whose relation is unknown',
      is: 'one',
      of: [
        ['stays', 'stays'],
        ['is held back', 'is held back'],
      ],
    },
  ],
  optional: true,
  named,
  sentence: (rule) => [{ chip: named(rule), field: 'relations' }],
  note: ({ unknown }) => `by their relation to us; an unknown relation ${unknown ?? 'stays'}`,
  closes({ relations, unknown }, { relation }) {
    const closed = relation === null ? unknown === 'is held back' : relations.includes(relation)
    return closed ? { kind: 'relation', relation } : null
  },
  mark({ relations, unknown }, columns, listed, _moment, { ours: rows }) {
    const asked = columns.relation.words.map((word) => (relations as string[]).includes(word))
    listed.forEach((n) => {
      const code = columns.relation.codeAt(n)
      if (code >= 0 ? asked[code] : unknown === 'is held back') markRows(columns, n, rows)
    })
  },
}

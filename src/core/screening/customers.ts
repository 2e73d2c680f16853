import { array, boolean, type InferType, object, string } from 'yup'
import { markRows, type RuleKind, recordRuleParts } from './kind'
import { RELATIONS } from '../records/relations'

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['customers'] as const)
    .required(),
  off: boolean().default(false),
  relations: array(string().oneOf(RELATIONS).required()).min(1, 'choose at least one relation').required(),
  /** What becomes of somebody whose relation is unknown; they stay where it is not said. */
  unknown: string()
    .oneOf(['stays', 'is held back'] as const)
    .optional(),
  /** What becomes of people whose organisation only somebody else may approach; they are not asked about where it is not said. */
  offLimits: string()
    .oneOf(['stay', 'are held back'] as const)
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
    {
      key: 'offLimits',
      label: 'People of organisations that are off limits',
      is: 'one',
      of: [
        ['stay', 'stay'],
        ['are held back', 'are held back'],
      ],
    },
  ],
  optional: true,
  named,
  sentence: (rule) => [{ chip: named(rule), field: 'relations' }],
  note: ({ unknown, offLimits }) =>
    `by their relation to us; an unknown relation ${unknown ?? 'stays'}${offLimits === 'are held back' ? '; people of organisations that are off limits are held back' : ''}`,
  closes({ relations, unknown, offLimits: limits }, { relation, offLimits }) {
    if (limits === 'are held back' && offLimits) return { kind: 'off-limits', by: offLimits }
    const closed = relation === null ? unknown === 'is held back' : relations.includes(relation)
    return closed ? { kind: 'relation', relation } : null
  },
  mark({ relations, unknown, offLimits }, columns, listed, _moment, { ours: rows }) {
    const asked = columns.relation.words.map((word) => (relations as string[]).includes(word))
    listed.forEach((n) => {
      const code = columns.relation.codeAt(n)
      const off = offLimits === 'are held back' && columns.offLimits.codeAt(n) >= 0
      if (off || (code >= 0 ? asked[code] : unknown === 'is held back')) markRows(columns, n, rows)
    })
  },
}

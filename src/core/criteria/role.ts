import { array, type InferType, number, object, string } from 'yup'
import { byWord, type CriterionKind, chips, steady, namesNothing } from './kind'
import { saying, says, stems } from './wording'

const words = () => array(string().trim().max(80).required()).max(40)

const schema = object({
  kind: string()
    .oneOf(['role'] as const)
    .required(),
  any: words().min(1, 'name at least one word of the role').required(),
  /** Words or phrases that rule a role out, whatever else it says. */
  not: words().optional(),
  /** The wording of the team's that the words were taken from. What is asked is the words themselves, so a line stays as it was when the wording is changed. */
  named: object({ id: number().integer().positive().required(), name: string().max(120).required() })
    .nullable()
    .optional()
    .default(undefined),
}).noUnknown()
export type RoleCriterion = InferType<typeof schema>

/** Role wording: any of several words or phrases, by their stems, but none of some others. A person with no role is unknown. */
export const role: CriterionKind<RoleCriterion> = {
  name: 'Role wording',
  synonyms: ['job title', 'title', 'position', 'occupation', 'designation', 'keyword'],
  inName: { before: '', after: '' },
  single: false,
  probe: { kind: 'role', any: ['?'] },
  named: namesNothing,
  of: 'person',
  group: 'who they are',
  schema,
  blank: { kind: 'role', any: [] },
  whose: true,
  sentence: ({ any, not = [], named }) => [
    { text: 'role says' },
    ...(named ? [{ chip: named.name, field: 'any' }] : chips(any, 'any', 'which words?')),
    { text: 'in any wording' },
    ...(not.length > 0 && !named ? [{ text: 'but not' }, { chip: not.join(', '), field: 'not' }] : []),
  ],
  asks: () => ['role'],
  varies: steady,
  verdict(criterion, record) {
    return record.role === null ? 'unknown' : test(criterion)(stems(record.role)) ? 'yes' : 'no'
  },
  evaluate: (criterion, columns) => byWord(columns, columns.role, saying(columns.role, criterion.any, criterion.not)),
}

function test({ any, not = [] }: RoleCriterion): (wording: string[]) => boolean {
  const [phrases, against] = [any.map(stems), not.map(stems)]
  return (wording) => phrases.some((phrase) => says(wording, phrase)) && !against.some((phrase) => says(wording, phrase))
}

import { array, type InferType, object, string } from 'yup'
import { byWord, type CriterionKind, chips, steady } from './kind'
import { says, stems } from './wording'

const schema = object({
  kind: string().oneOf(['role'] as const).required(),
  any: array(string().trim().max(80).required()).min(1, 'name at least one word of the role').max(40).required(),
}).noUnknown()
export type RoleCriterion = InferType<typeof schema>

/** Role wording: any of several words or phrases, by their stems. A person with no role is unknown. */
export const role: CriterionKind<RoleCriterion> = {
  name: 'Role wording',
  of: 'person',
  group: 'who they are',
  schema,
  blank: { kind: 'role', any: [] },
  whose: true,
  sentence: ({ any }) => [
    { text: 'role says' },
    ...chips(any, 'any', 'which words?'),
    { text: 'in any wording' },
  ],
  asks: () => ['role'],
  varies: steady,
  verdict({ any }, record) {
    if (record.role === null) return 'unknown'
    const wording = stems(record.role)
    return any.some((phrase) => says(wording, stems(phrase))) ? 'yes' : 'no'
  },
  evaluate({ any }, columns) {
    const phrases = any.map(stems)
    const asked = columns.role.derived(stems).map((wording) => phrases.some((phrase) => says(wording, phrase)))
    return byWord(columns, columns.role, asked)
  },
}

import { array, type InferType, object, string } from 'yup'
import { classifyRole, FUNCTIONS } from '../clean/role'
import { byWord, type CriterionKind, chips, steady, namesNothing } from './kind'

const schema = object({
  kind: string()
    .oneOf(['function'] as const)
    .required(),
  any: array(string().oneOf(FUNCTIONS).required()).min(1, 'choose at least one function').required(),
}).noUnknown()
export type FunctionCriterion = InferType<typeof schema>

/** Returns the function in a role's wording; null where it names none. */
export const functionOf = (role: string) => classifyRole(role).function

/** What the role is about, as its wording tells. No role, or a wording that does not tell, is unknown. */
export const roleFunction: CriterionKind<FunctionCriterion> = {
  name: 'Function of the role',
  synonyms: ['department', 'job function', 'team', 'discipline', 'finance', 'facilities', 'marketing'],
  inName: { before: '', after: '' },
  single: true,
  probe: { kind: 'function', any: ['finance'] },
  named: namesNothing,
  of: 'person',
  group: 'who they are',
  schema,
  blank: { kind: 'function', any: [] },
  whose: true,
  sentence: ({ any }) => [{ text: 'role is about' }, ...chips(any, 'any', 'what?')],
  asks: () => ['role'],
  varies: steady,
  verdict({ any }, { role }) {
    const found = role === null ? null : functionOf(role)
    return found === null ? 'unknown' : any.includes(found) ? 'yes' : 'no'
  },
  evaluate: ({ any }, columns) =>
    byWord(
      columns,
      columns.role,
      columns.role.derived(functionOf).map((found) => found && any.includes(found)),
    ),
}

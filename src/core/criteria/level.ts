import { array, type InferType, object, string } from 'yup'
import { classifyRole, LEVELS } from '../clean/role'
import { byWord, type CriterionKind, chips, steady, namesNothing } from './kind'

const schema = object({
  kind: string()
    .oneOf(['level'] as const)
    .required(),
  any: array(string().oneOf(LEVELS).required()).min(1, 'choose at least one level').required(),
}).noUnknown()
export type LevelCriterion = InferType<typeof schema>

/** Returns the level in a role's wording; null where it names none. */
export const levelOf = (role: string) => classifyRole(role).level

/** How high the role stands, as its wording tells. No role, or a wording that does not tell, is unknown. */
export const level: CriterionKind<LevelCriterion> = {
  name: 'Level of the role',
  synonyms: ['seniority', 'management level', 'rank', 'director', 'manager', 'executive', 'vp', 'head of'],
  inName: { before: '', after: '' },
  single: true,
  probe: { kind: 'level', any: ['head'] },
  named: namesNothing,
  of: 'person',
  group: 'who they are',
  schema,
  blank: { kind: 'level', any: [] },
  whose: true,
  sentence: ({ any }) => [{ text: 'role is at the level of' }, ...chips(any, 'any', 'which?')],
  asks: () => ['role'],
  varies: steady,
  verdict({ any }, { role }) {
    const found = role === null ? null : levelOf(role)
    return found === null ? 'unknown' : any.includes(found) ? 'yes' : 'no'
  },
  evaluate: ({ any }, columns) =>
    byWord(
      columns,
      columns.role,
      columns.role.derived(levelOf).map((found) => found && any.includes(found)),
    ),
}

import { type InferType, object, string } from 'yup'
import { onlyId, type RuleKind } from './kind'

/** The rule that opens every policy. */
export const NO_WAY = 'no-way-to-reach'

const schema = object({
  id: onlyId(NO_WAY),
  kind: string()
    .oneOf([NO_WAY] as const)
    .required(),
}).noUnknown()
export type NoWayRule = InferType<typeof schema>

/** Opens every screening: a channel without a usable address or number has nothing that a later rule could close. */
export const noWayToReach: RuleKind<NoWayRule> = {
  name: 'No way to reach',
  about: 'closes a channel without a usable address or number',
  schema,
  usual: {},
  form: [],
  optional: false,
  sentence: () => [{ text: 'No way to reach' }],
  note: () => 'no usable address or number',
  closes: () => null,
  mark: () => {},
}

import { type InferType, object, string } from 'yup'
import type { RuleKind } from './kind'

const schema = object({
  kind: string()
    .oneOf(['no-way-to-reach'] as const)
    .required(),
}).noUnknown()
export type NoWayRule = InferType<typeof schema>

/** Opens every screening: a channel without a usable address or number has nothing that a later rule could close. */
export const noWayToReach: RuleKind<NoWayRule> = {
  name: 'No way to reach',
  schema,
  optional: false,
  sentence: () => [{ text: 'No way to reach' }],
  note: () => 'no usable address or number',
  closes: () => null,
  mark: () => {},
}

import { boolean, type InferType, object, string } from 'yup'
import { NEVER } from '../columns/people-columns'
import { type RuleKind, recordRuleParts } from './kind'

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['address-failed'] as const)
    .required(),
  off: boolean().default(false),
}).noUnknown()
export type AddressFailedRule = InferType<typeof schema>

/** An address or number at which the last contact that tells bounced, came back, or reached somebody else. */
export const addressFailed: RuleKind<AddressFailedRule> = {
  name: 'Address failed',
  about: 'closes an address that bounced, a letter that came back, a wrong number',
  schema,
  usual: { off: false },
  form: [],
  optional: true,
  sentence: () => [{ text: 'Address failed' }],
  note: () => 'an email bounced, a letter returned or a wrong number, and nothing got through since',
  closes: (_rule, _record, address) => (address.failedAt === null ? null : { kind: 'failed', address: address.id, at: address.failedAt }),
  mark(_rule, columns, listed, _moment, marks) {
    const { failed } = columns.addresses.fields
    listed.forEach((n) => {
      const first = columns.addresses.first(n)
      for (let row = first; row < first + columns.addresses.count(n); row++) if (failed[row] !== NEVER) marks.ours.add(row)
    })
  },
}

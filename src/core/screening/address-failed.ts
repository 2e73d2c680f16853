import { boolean, type InferType, number, object, string } from 'yup'
import { withinDaysFrom } from '../calendar/local-day'
import type { Moment } from '../criteria/kind'
import { NEVER } from '../columns/people-columns'
import { type RuleKind, recordRuleParts } from './kind'

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['address-failed'] as const)
    .required(),
  off: boolean().default(false),
  /** How many calendar days a failure counts; for good where it is not said. */
  days: number().integer().min(1).max(3650).optional(),
}).noUnknown()
export type AddressFailedRule = InferType<typeof schema>

/** Since when a failure counts, in UTC milliseconds. */
const countsFrom = ({ days }: AddressFailedRule, { asOf, zone }: Moment): number =>
  days === undefined ? NEVER : withinDaysFrom(asOf, days, zone)

/** An address or number at which the last contact that tells bounced, came back, or reached somebody else. */
export const addressFailed: RuleKind<AddressFailedRule> = {
  name: 'Address failed',
  about: 'closes an address that bounced, a letter that came back, a wrong number',
  schema,
  usual: { off: false },
  form: [{ key: 'days', label: 'A failure counts', is: 'number', least: 1, most: 3650, unit: 'days', empty: 'for good' }],
  optional: true,
  sentence: () => [{ text: 'Address failed' }],
  note: ({ days }) =>
    `an email bounced, a letter returned or a wrong number${days === undefined ? '' : `, in the last ${days} days`}, and nothing got through since`,
  closes: (rule, _record, address, moment) =>
    address.failedAt === null || address.failedAt < countsFrom(rule, moment)
      ? null
      : { kind: 'failed', address: address.id, at: address.failedAt },
  mark(rule, columns, listed, moment, marks) {
    const from = countsFrom(rule, moment)
    const { failed } = columns.addresses.fields
    listed.forEach((n) => {
      const first = columns.addresses.first(n)
      for (let row = first; row < first + columns.addresses.count(n); row++)
        if (failed[row] !== NEVER && failed[row] >= from) marks.ours.add(row)
    })
  },
}

import { boolean, type InferType, number, object, string } from 'yup'
import { withinDaysFrom } from '../calendar/local-day'
import type { Moment } from '../criteria/kind'
import { NEVER } from '../columns/people-columns'
import { type RuleKind, recordRuleParts } from './kind'

const SOFT_DAYS = 30

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['address-failed'] as const)
    .required(),
  off: boolean().default(false),
  /** How many calendar days a failure counts; for good where it is not said. */
  days: number().integer().min(1).max(3650).optional(),
  /** So many soft bounces, of the last calendar days, count as a failure; none do where it is not said. */
  soft: number().integer().min(2).max(20).optional(),
  softDays: number().integer().min(1).max(365).optional(),
}).noUnknown()
export type AddressFailedRule = InferType<typeof schema>

/** Since when a failure counts, in UTC milliseconds. */
const countsFrom = ({ days }: AddressFailedRule, { asOf, zone }: Moment): number =>
  days === undefined ? NEVER : withinDaysFrom(asOf, days, zone)

/** How many soft bounces count, and the last of them; null where they are too few. */
function softly(
  { soft, softDays = SOFT_DAYS }: AddressFailedRule,
  at: readonly number[],
  { asOf, zone }: Moment,
): { count: number; last: number } | null {
  if (soft === undefined || at.length < soft) return null
  const from = withinDaysFrom(asOf, softDays, zone)
  const counted = at.filter((own) => own >= from && own <= asOf)
  return counted.length < soft ? null : { count: counted.length, last: Math.max(...counted) }
}

/**
 * An address or number at which the last contact that tells bounced, came back, or reached somebody else; or an email that bounced for now
 * so often since anything last arrived there (common practice, no source).
 */
export const addressFailed: RuleKind<AddressFailedRule> = {
  name: 'Address failed',
  about: 'closes an address that bounced, a letter that came back, a wrong number',
  schema,
  usual: { off: false, soft: 3, softDays: SOFT_DAYS },
  form: [
    { key: 'days', label: 'A failure counts for', is: 'number', least: 1, most: 3650, unit: 'days', empty: 'for good' },
    { key: 'soft', label: 'Soft bounces that count as a failure', is: 'number', least: 2, most: 20, unit: 'emails', empty: 'none' },
    { key: 'softDays', label: 'Soft bounces within the last', is: 'number', least: 1, most: 365, unit: 'days', empty: `${SOFT_DAYS}` },
  ],
  optional: true,
  sentence: () => [{ text: 'Address failed' }],
  note: ({ days, soft, softDays = SOFT_DAYS }) =>
    `an email bounced${soft === undefined ? '' : `, or bounced softly ${soft} times in ${softDays} days`}, a letter returned or a wrong number${days === undefined ? '' : `, in the last ${days} days`}, and nothing got through since`,
  closes(rule, _record, address, moment) {
    if (address.failedAt !== null && address.failedAt >= countsFrom(rule, moment))
      return { kind: 'failed', address: address.id, at: address.failedAt }
    const soft = softly(rule, address.softAt ?? [], moment)
    return soft && { kind: 'failed', address: address.id, at: soft.last, soft: soft.count }
  },
  mark(rule, columns, listed, moment, marks) {
    const from = countsFrom(rule, moment)
    const { failed } = columns.addresses.fields
    listed.forEach((n) => {
      const first = columns.addresses.first(n)
      for (let row = first; row < first + columns.addresses.count(n); row++)
        if (failed[row] !== NEVER && failed[row] >= from) marks.ours.add(row)
    })
    if (rule.soft === undefined) return
    for (const [n, byRow] of columns.softBounced)
      if (listed.has(n)) byRow.forEach((at, i) => softly(rule, at, moment) && marks.ours.add(columns.addresses.first(n) + i))
  },
}

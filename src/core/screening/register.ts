import { array, type InferType, number, object, string } from 'yup'
import { datePlusDays, daysBetween, localDate } from '../calendar/local-day'
import type { Moment } from '../criteria/kind'
import { markRows, onlyId, type RuleKind } from './kind'
import { markSuppressed, suppressionOf } from './suppressed'
import { countryName } from '../clean/country'
import type { CustomValues } from '../clean/custom'
import { FIELD } from '../clean/standard-fields'
import { countryAt, countryOf } from './country-of'
import { isEstablished } from './established'
import { customAt } from './custom-at'
import { dateText } from '../text/written'
import { CHANNELS } from '../records/channels'
import type { Reason } from '../records/suppression'

const schema = object({
  id: onlyId('register'),
  kind: string()
    .oneOf(['register'] as const)
    .required(),
  /** Date of the register file in use, or null where no register is kept. */
  version: string()
    .matches(/^\d{4}-\d\d-\d\d$/)
    .nullable()
    .default(null),
  /** Calendar days a register file may be used after its date. */
  goodFor: number().integer().min(1).max(366).default(31),
  /** Countries in which an established relationship lets a number on the register be called. None where it is not said. */
  established: array(
    string()
      .matches(/^[A-Z]{2}$/)
      .required(),
  )
    .max(60)
    .optional(),
}).noUnknown()
export type RegisterRule = InferType<typeof schema>

const COUNTED: readonly Reason[] = ['register']

/**
 * Last date on which a register file may be used. Default of 31 days: 16 CFR 310.4(b)(3)(iv), a version obtained no
 * more than 31 days before the call.
 */
export function goodThrough(version: string, goodFor: number): string {
  return datePlusDays(version, goodFor)
}

/** Whether a register is older than it may be on the day of a moment, in the zone of the list. */
export function outOfDate({ version, goodFor }: Pick<RegisterRule, 'version' | 'goodFor'>, { asOf, zone }: Moment): boolean {
  return version !== null && localDate(asOf, zone) > goodThrough(version, goodFor)
}

/** Whether an established relationship lets a number be called; never where its country is not known. */
const exempt = ({ established }: RegisterRule, custom: CustomValues, country: string | null, { asOf, zone }: Moment): boolean =>
  country !== null && (established ?? []).includes(country) && isEstablished(custom, localDate(asOf, zone))

/**
 * Numbers on the do-not-call register: phone only. Once the register file is too old, whether a number is on it is
 * unknown, and a legal rule holds back the unknown: every number is closed until a newer file comes in.
 */
export const register: RuleKind<RegisterRule> = {
  name: 'Do-not-call register',
  about: 'closes numbers on the register, and every number once its file is too old',
  schema,
  usual: { version: null, goodFor: 31 },
  form: [],
  optional: false,
  sentence: () => [{ text: 'Do-not-call register' }],
  note(rule, moment) {
    if (rule.version === null) return 'no register file has been brought in'
    const age = daysBetween(rule.version, localDate(moment.asOf, moment.zone))
    const exempt = rule.established?.length
      ? `; an established relationship opens a number in ${rule.established.map(countryName).join(', ')}`
      : ''
    return outOfDate(rule, moment)
      ? `file of ${dateText(rule.version)} was good through ${dateText(goodThrough(rule.version, rule.goodFor))}: bring in a newer one to call anybody`
      : `file of ${dateText(rule.version)}, ${age} days old, good for ${rule.goodFor - age} more${exempt}`
  },
  closes(rule, record, address, moment) {
    if (address.channel !== 'phone' || exempt(rule, record.custom, countryOf(record, address), moment)) return null
    const on = suppressionOf(record, address, COUNTED, moment.asOf)
    return on ?? (outOfDate(rule, moment) ? { kind: 'register-out-of-date', version: rule.version as string } : null)
  },
  mark(rule, columns, listed, moment, { final: rows }) {
    const phone = CHANNELS.indexOf('phone')
    if (outOfDate(rule, moment)) listed.forEach((n) => markRows(columns, n, rows, (channel) => channel === phone))
    else markSuppressed(columns, listed, COUNTED, moment.asOf, rows, 'phone')
    if (!rule.established?.length) return
    const dates = (n: number) => ({
      [FIELD.lastPurchase]: customAt(columns, n, FIELD.lastPurchase) ?? '',
      [FIELD.lastInquiry]: customAt(columns, n, FIELD.lastInquiry) ?? '',
    })
    rows.clone().forEach((row) => {
      if (exempt(rule, dates(columns.addresses.owner[row]), countryAt(columns, row), moment)) rows.delete(row)
    })
  },
}

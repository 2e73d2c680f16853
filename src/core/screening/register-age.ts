import { boolean, type InferType, number, object, string } from 'yup'
import { dateText } from '../text/written'
import { CHANNELS } from '../records/channels'
import { markRows, recordRuleParts, type RuleKind } from './kind'
import { goodThrough, outOfDate } from './register'

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['register-age'] as const)
    .required(),
  off: boolean().default(false),
  /** Date of the register file in use, or null where no register is kept. */
  version: string()
    .matches(/^\d{4}-\d\d-\d\d$/)
    .nullable()
    .default(null),
  /** Calendar days a register file may be used after its date. */
  goodFor: number().integer().min(1).max(366).required(),
}).noUnknown()
export type RegisterAgeRule = InferType<typeof schema>

/** A shorter age of the register file than it was brought in with, for the numbers of some countries: once it is older, each is closed. */
export const registerAge: RuleKind<RegisterAgeRule> = {
  name: 'Age of the register file',
  about: 'closes numbers once the register file is older than so many days, for instance those of one country',
  schema,
  usual: { off: false, version: null, goodFor: 28 },
  form: [{ key: 'goodFor', label: 'A register file is good for', is: 'number', least: 1, most: 366, unit: 'days' }],
  optional: true,
  sentence: ({ goodFor }) => [{ text: 'Register file no older than' }, { chip: `${goodFor} days`, field: 'goodFor' }],
  note: (rule) =>
    rule.version === null
      ? 'no register file has been brought in'
      : `the file of ${dateText(rule.version)} is good through ${dateText(goodThrough(rule.version, rule.goodFor))}`,
  closes: (rule, _record, address, moment) =>
    address.channel === 'phone' && outOfDate(rule, moment) ? { kind: 'register-out-of-date', version: rule.version as string } : null,
  mark(rule, columns, listed, moment, { final }) {
    const phone = CHANNELS.indexOf('phone')
    if (outOfDate(rule, moment)) listed.forEach((n) => markRows(columns, n, final, (channel) => channel === phone))
  },
}

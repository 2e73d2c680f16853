import { boolean, type InferType, number, object, string } from 'yup'
import { withinDaysFrom } from '../calendar/local-day'
import { type AddressState, EMAIL_STATES, PHONE_STATES, placeOfState } from '../records/address-state'
import { CHANNELS } from '../records/channels'
import type { Moment } from '../criteria/kind'
import { NEVER } from '../columns/people-columns'
import { type RuleKind, recordRuleParts } from './kind'

const EMAILS = ['any that is not bad', 'verified or uncertain', 'verified'] as const
const PHONES = ['any that is not wrong', 'reached'] as const

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['address-quality'] as const)
    .required(),
  off: boolean().default(false),
  /** Which email addresses stay open, and which numbers. */
  emails: string().oneOf(EMAILS).required(),
  phones: string().oneOf(PHONES).required(),
  /** How many calendar days a check of an email counts; for good where it is not said. */
  days: number().integer().min(1).max(3650).optional(),
  /** What becomes of an address or number nobody knows enough of: never checked or too long ago, never tried. */
  unknown: string()
    .oneOf(['stays', 'is closed'] as const)
    .required(),
}).noUnknown()
export type AddressQualityRule = InferType<typeof schema>

/** What is known of an email as far as its check still counts, or of a number; null where nothing is. */
function known(rule: AddressQualityRule, channel: string, state: AddressState, checkedAt: number | null, moment: Moment): AddressState {
  if (channel === 'phone') return state === 'not tried' ? null : state
  if (state === 'unchecked' || state === null) return null
  // What was found to be bad stays bad, however long ago.
  if (state === 'bad' || rule.days === undefined) return state
  return checkedAt !== null && checkedAt >= withinDaysFrom(moment.asOf, rule.days, moment.zone) ? state : null
}

/** Whether an address of which this is known is closed; an unknown one as the rule says. */
function closesState(rule: AddressQualityRule, channel: string, state: AddressState): boolean {
  if (state === null) {
    const asked = channel === 'phone' ? rule.phones === 'reached' : rule.emails !== 'any that is not bad' || rule.days !== undefined
    return asked && rule.unknown === 'is closed'
  }
  if (channel === 'phone') return state === 'wrong' || state === 'out of service'
  return state === 'bad' || (state === 'uncertain' && rule.emails === 'verified')
}

/** Email addresses and numbers by what checks and calls have shown of them; letters are not asked about. */
export const addressQuality: RuleKind<AddressQualityRule> = {
  name: 'Address quality',
  about: 'closes emails that checks found bad or uncertain, and numbers that calls found wrong',
  schema,
  usual: { off: false, emails: 'verified or uncertain', phones: 'any that is not wrong', days: 90, unknown: 'stays' },
  form: [
    { key: 'emails', label: 'Emails that stay open', is: 'one', of: EMAILS.map((own) => [own, own]) },
    { key: 'days', label: 'A check of an email counts', is: 'number', least: 1, most: 3650, unit: 'days', empty: 'for good' },
    { key: 'phones', label: 'Numbers that stay open', is: 'one', of: PHONES.map((own) => [own, own]) },
    {
      key: 'unknown',
      label: 'One that is not known well enough',
      is: 'one',
      of: [
        ['stays', 'stays open'],
        ['is closed', 'is closed'],
      ],
    },
  ],
  optional: true,
  sentence: ({ emails, phones }) => [
    { text: 'Address quality: emails' },
    { chip: emails, field: 'emails' },
    { text: ', numbers' },
    { chip: phones, field: 'phones' },
  ],
  note: ({ days, unknown }) =>
    `${days === undefined ? 'a check counts for good' : `a check counts ${days} days`}; one that was never checked or tried ${unknown === 'stays' ? 'stays open' : 'is closed'}`,
  closes(rule, _record, { id, channel, traits, checkedAt }, moment) {
    if (channel !== 'email' && channel !== 'phone') return null
    const state = known(rule, channel, traits?.state ?? null, checkedAt ?? null, moment)
    return closesState(rule, channel, state)
      ? { kind: 'quality', address: id, state: traits?.state ?? null, checkedAt: checkedAt ?? null, known: state !== null }
      : null
  },
  mark(rule, columns, listed, moment, marks) {
    const { channel, traits, checked } = columns.addresses.fields
    const [email, phone] = [CHANNELS.indexOf('email'), CHANNELS.indexOf('phone')]
    listed.forEach((n) => {
      const first = columns.addresses.first(n)
      for (let row = first; row < first + columns.addresses.count(n); row++) {
        if (channel[row] !== email && channel[row] !== phone) continue
        const name = CHANNELS[channel[row]]
        const state = (channel[row] === phone ? PHONE_STATES : EMAIL_STATES)[placeOfState(traits[row])] ?? null
        if (closesState(rule, name, known(rule, name, state, checked[row] === NEVER ? null : checked[row], moment))) marks.ours.add(row)
      }
    })
  },
}

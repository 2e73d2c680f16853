import { array, boolean, type InferType, number, object, string } from 'yup'
import { withinDaysFrom } from '../calendar/local-day'
import { CLOSES, markRows, type RuleKind, ruleParts } from './kind'
import { CHANNEL_NAME, CHANNELS, WAYS, waysText } from '../records/channels'

const schema = object({
  ...ruleParts,
  kind: string()
    .oneOf(['contacted-within'] as const)
    .required(),
  off: boolean().default(false),
  days: number().integer().min(1, 'days: 1 or more').max(3650).default(30),
  /** Which contacts count; the four channels where it is not said. */
  ways: array(string().oneOf(WAYS).required()).min(1, 'choose at least one way of contact').optional(),
  /** Whether a contact closes every channel, or only the one it was made by. */
  closes: string()
    .oneOf(['every channel', 'the same channel'] as const)
    .default('every channel'),
}).noUnknown()
export type ContactedWithinRule = InferType<typeof schema>

/**
 * Contacted in the last N calendar days by anyone on the team, in the ways that count: email, phone, post and direct
 * message unless others are chosen. Contacts made count; those that another round is still to make have their own rule.
 */
export const contactedWithin: RuleKind<ContactedWithinRule> = {
  name: 'Contacted in the last days',
  about: 'rests whom somebody on the team contacted lately',
  schema,
  usual: { off: false, days: 30, closes: 'every channel' },
  form: [
    { key: 'days', label: 'Hold back after a contact', is: 'number', least: 1, most: 3650, unit: 'days' },
    { key: 'ways', label: 'Contacts that count', is: 'some', of: WAYS.map((way) => [way, CHANNEL_NAME[way]]), all: 'the four channels' },
    CLOSES,
  ],
  optional: true,
  sentence: ({ days }) => [{ text: 'Contacted in the last' }, { chip: `${days} days`, field: 'days' }],
  note: ({ closes, ways }) =>
    `${waysText(ways)}, by anyone on the team${closes === 'every channel' ? '' : '; closes only the channel it was made by'}`,
  closes(rule, record, address, moment) {
    const from = withinDaysFrom(moment.asOf, rule.days, moment.zone)
    const ways: readonly string[] = rule.ways ?? CHANNELS
    const counts = (way: string) => ways.includes(way) && (rule.closes === 'every channel' || way === address.channel)
    const latest = record.contacts.filter((c) => c.at >= from && counts(c.channel)).sort((a, b) => b.at - a.at)[0]
    return latest ? { kind: 'contact', at: latest.at, channel: latest.channel, by: latest.by } : null
  },
  mark(rule, columns, listed, moment, marks) {
    const from = withinDaysFrom(moment.asOf, rule.days, moment.zone)
    const { at, channel } = columns.contacts.fields
    const every = rule.closes === 'every channel'
    const counted = (rule.ways ?? CHANNELS).reduce((bits, way) => bits | (1 << WAYS.indexOf(way)), 0)
    listed.forEach((n) => {
      const first = columns.contacts.first(n)
      const end = first + columns.contacts.count(n)
      let by = 0
      for (let i = first; i < end; i++) if (at[i] >= from) by |= 1 << channel[i]
      by &= counted
      if (by !== 0) markRows(columns, n, marks.ours, every ? undefined : (c) => (by & (1 << c)) !== 0)
    })
  },
}

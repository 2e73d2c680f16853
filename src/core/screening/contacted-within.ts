import { boolean, type InferType, number, object, string } from 'yup'
import { withinDaysFrom } from '../calendar/local-day'
import { CHANNELS } from '../columns/person-record'
import { markRows, type RuleKind } from './kind'

const schema = object({
  kind: string().oneOf(['contacted-within'] as const).required(),
  off: boolean().default(false),
  days: number().integer().min(1, 'days: 1 or more').max(3650).default(30),
  /** Whether a contact closes every channel, or only the one it was made by. */
  closes: string().oneOf(['every channel', 'the same channel'] as const).default('every channel'),
}).noUnknown()
export type ContactedWithinRule = InferType<typeof schema>

/**
 * Contacted in the last N calendar days by anyone on the team, by e-mail, phone, post or direct message. Contacts that
 * an open round is still to make count as well.
 */
export const contactedWithin: RuleKind<ContactedWithinRule> = {
  name: 'Contacted in the last days',
  schema,
  optional: true,
  sentence: ({ days }) => [{ text: 'Contacted in the last' }, { chip: `${days} days`, field: 'days' }],
  note: ({ closes }) =>
    closes === 'every channel'
      ? 'any channel, by anyone on the team; contacts to come of open rounds count'
      : 'each channel for itself, by anyone on the team; contacts to come of open rounds count',
  closes(rule, record, address, moment) {
    const from = withinDaysFrom(moment.asOf, rule.days, moment.zone)
    const counts = (channel: string) => rule.closes === 'every channel' || channel === address.channel
    const latest = record.contacts.filter((c) => c.at >= from && counts(c.channel)).sort((a, b) => b.at - a.at)[0]
    if (latest) return { kind: 'contact', ...latest }
    const toCome = record.toCome.find((t) => !moment.exceptRounds.includes(t.round) && counts(t.channel))
    return toCome ? { kind: 'contact-to-come', round: toCome.round, channel: toCome.channel } : null
  },
  mark(rule, columns, listed, moment, rows) {
    const from = withinDaysFrom(moment.asOf, rule.days, moment.zone)
    const { at, channel } = columns.contacts.fields
    const every = rule.closes === 'every channel'
    listed.forEach((n) => {
      const first = columns.contacts.first(n)
      const end = first + columns.contacts.count(n)
      let by = 0
      for (let i = first; i < end; i++) if (at[i] >= from) by |= 1 << channel[i]
      for (const t of columns.toCome.get(n) ?? []) if (!moment.exceptRounds.includes(t.round)) by |= 1 << CHANNELS.indexOf(t.channel)
      if (by !== 0) markRows(columns, n, rows, every ? undefined : (c) => (by & (1 << c)) !== 0)
    })
  },
}

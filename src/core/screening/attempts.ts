import { boolean, type InferType, number, object, string } from 'yup'
import { withinDaysFrom } from '../calendar/local-day'
import { WAYS } from '../records/channels'
import { CLOSES, markRows, type RuleKind, recordRuleParts } from './kind'
import { unansweredAt, unansweredOf } from './unanswered'

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['attempts'] as const)
    .required(),
  off: boolean().default(false),
  /** So many contacts without an answer. */
  most: number().integer().min(1).max(100).required(),
  /** So many calendar days of rest after the last of them. */
  days: number().integer().min(1).max(3650).required(),
  closes: string()
    .oneOf(['every channel', 'the same channel'] as const)
    .required(),
}).noUnknown()
export type AttemptsRule = InferType<typeof schema>

/**
 * Whoever was contacted so often without an answer rests for some days after the last time. An answer is *replied*, *spoke*, *meeting
 * set*, *not interested* or *asked us to stop* (common practice, no source); contacts by the four channels count.
 */
export const attempts: RuleKind<AttemptsRule> = {
  name: 'Attempts without an answer',
  about: 'rests whoever was contacted again and again without an answer',
  schema,
  usual: { off: false, most: 4, days: 60, closes: 'every channel' },
  form: [
    { key: 'most', label: 'Contacts without an answer', is: 'number', least: 1, most: 100, unit: 'contacts' },
    { key: 'days', label: 'Rest after the last of them', is: 'number', least: 1, most: 3650, unit: 'days' },
    CLOSES,
  ],
  optional: true,
  sentence: ({ most, days }) => [
    { chip: `${most} attempts`, field: 'most' },
    { text: 'without an answer, the last within' },
    { chip: `${days} days`, field: 'days' },
  ],
  note: ({ closes }) =>
    `an answer is a reply, a talk or a meeting; never contacted counts as none${closes === 'every channel' ? '' : '; closes only the channels they were made by'}`,
  closes(rule, record, address, moment) {
    const row = unansweredOf(record.contacts, moment.asOf)
    if (!row || row.count < rule.most || row.last < withinDaysFrom(moment.asOf, rule.days, moment.zone)) return null
    if (rule.closes === 'the same channel' && !((row.ways >> WAYS.indexOf(address.channel)) & 1)) return null
    return { kind: 'unanswered', count: row.count, first: row.first, last: row.last }
  },
  mark(rule, columns, listed, moment, marks) {
    const from = withinDaysFrom(moment.asOf, rule.days, moment.zone)
    listed.forEach((n) => {
      if (columns.contacts.count(n) < rule.most) return
      const row = unansweredAt(columns, n, moment.asOf)
      if (!row || row.count < rule.most || row.last < from) return
      markRows(columns, n, marks.ours, rule.closes === 'every channel' ? undefined : (channel) => ((row.ways >> channel) & 1) === 1)
    })
  },
}

import { boolean, type InferType, number, object, string } from 'yup'
import { datePlusDays, localDate } from '../calendar/local-day'
import type { Moment } from '../criteria/kind'
import { CHANNELS, WAYS } from '../records/channels'
import { markRows, type RuleKind, recordRuleParts } from './kind'
import { codesOf, type Unanswered, unansweredAt, unansweredOf } from './unanswered'

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['gone-quiet'] as const)
    .required(),
  off: boolean().default(false),
  /** At least so many emails, over at least so many calendar days. */
  most: number().integer().min(1).max(1000).required(),
  days: number().integer().min(1).max(3650).required(),
  /** Whether an open counts as a sign of life: machines open mail, too. */
  opens: string()
    .oneOf(['count', 'do not count'] as const)
    .required(),
  /** After so many calendar days without an email one more may go out, once; none may where it is not said. */
  again: number().integer().min(1).max(3650).optional(),
}).noUnknown()
export type GoneQuietRule = InferType<typeof schema>

const EMAIL = 1 << WAYS.indexOf('email')
const HEARD = ['replied', 'spoke', 'meeting set', 'not interested', 'asked us to stop'] as const
const SIGNS = { count: codesOf([...HEARD, 'opened']), 'do not count': codesOf(HEARD) }

/** Whether so many emails went out over so many days with nothing heard: the first `count` of a row of them. */
const quietAfter = ({ most, days }: GoneQuietRule, { times }: Unanswered, count: number, zone: string): boolean =>
  count >= most && localDate(times[count - 1], zone) >= datePlusDays(localDate(times[0], zone), days)

/** Whether somebody is closed: quiet, and not about to be asked a last time whether they want to hear from us. */
function isClosed(rule: GoneQuietRule, row: Unanswered | null, { asOf, zone }: Moment): row is Unanswered {
  if (row === null || !quietAfter(rule, row, row.count, zone)) return false
  if (rule.again === undefined) return true
  const { again } = rule
  const rested = (since: number, at: number) => localDate(at, zone) >= datePlusDays(localDate(since, zone), again)
  const asked = row.times.some((at, i) => i > 0 && rested(row.times[i - 1], at) && quietAfter(rule, row, i, zone))
  return asked || !rested(row.last, asOf)
}

/**
 * Gone quiet (disengaged): so many emails over so many days since the last sign of life, by any way. Email alone is closed. One last email, which asks whether
 * they still want to hear from us, may go out after a rest, once. The trade
 * calls this a sunset policy (common practice, no source).
 */
export const goneQuiet: RuleKind<GoneQuietRule> = {
  name: 'Gone quiet',
  about: 'closes email to whoever got many emails over a long time and gave no sign of life',
  schema,
  usual: { off: false, most: 6, days: 180, opens: 'do not count' },
  form: [
    { key: 'most', label: 'Emails without a sign of life', is: 'number', least: 1, most: 1000, unit: 'emails' },
    { key: 'days', label: 'Over at least', is: 'number', least: 1, most: 3650, unit: 'days' },
    {
      key: 'opens',
      label: 'Opens of an email',
      is: 'one',
      of: [
        ['do not count', 'do not count: machines open mail, too'],
        ['count', 'count as a sign of life'],
      ],
    },
    { key: 'again', label: 'One last email may go out after', is: 'number', least: 1, most: 3650, unit: 'days of rest', empty: 'none may' },
  ],
  optional: true,
  sentence: ({ most, days }) => [
    { text: 'Gone quiet:' },
    { chip: `${most} emails`, field: 'most' },
    { text: 'over' },
    { chip: `${days} days`, field: 'days' },
    { text: 'and nothing heard' },
  ],
  note: ({ opens, again }) =>
    `closes email alone; a reply, a talk or a meeting ends it, an open ${opens === 'count' ? 'too' : 'does not'}${again === undefined ? '' : `; after ${again} days without one, a last email may ask whether they want to hear from us`}`,
  closes(rule, record, address, moment) {
    if (address.channel !== 'email') return null
    const row = unansweredOf(record.contacts, moment.asOf, { ways: EMAIL, signs: SIGNS[rule.opens] })
    return isClosed(rule, row, moment) ? { kind: 'unanswered', count: row.count, first: row.first, last: row.last } : null
  },
  mark(rule, columns, listed, moment, marks) {
    const email = CHANNELS.indexOf('email')
    listed.forEach((n) => {
      if (columns.contacts.count(n) < rule.most) return
      if (isClosed(rule, unansweredAt(columns, n, moment.asOf, { ways: EMAIL, signs: SIGNS[rule.opens] }), moment))
        markRows(columns, n, marks.ours, (channel) => channel === email)
    })
  },
}

import { boolean, type InferType, number, object, string } from 'yup'
import { FIELD } from '../clean/standard-fields'
import { countText } from '../text/written'
import { customAt } from './custom-at'
import { type Allowance, type RuleKind, ruleParts, type Wait } from './kind'
import { FIRST, rankedNumbers } from './ranked'

/** How somebody takes direct messages who must be asked first. */
export const BY_REQUEST = 'by request'

const schema = object({
  ...ruleParts,
  kind: string()
    .oneOf(['message-requests'] as const)
    .required(),
  off: boolean().default(false),
  /** So many requests the team may make in so many calendar days. */
  most: number().integer().min(0).max(1_000_000).required(),
  days: number().integer().min(1).max(3650).required(),
  /** Whether a request that is answered is given back. */
  answered: string()
    .oneOf(['is given back', 'stays used'] as const)
    .required(),
  /** Who comes first for those that are left. */
  first: string().oneOf(FIRST).required(),
}).noUnknown()
export type MessageRequestsRule = InferType<typeof schema>

/** How many requests are left of an allowance. */
export const requestsLeft = (rule: MessageRequestsRule, { used, refunded, toCome }: Allowance): number =>
  Math.max(0, rule.most - used - toCome + (rule.answered === 'is given back' ? refunded : 0))

const NOTHING_USED: Allowance = { used: 0, refunded: 0, toCome: 0 }

/**
 * An allowance of direct messages by request: a message to somebody who takes them from anyone costs none, one to somebody who must be asked
 * first costs one, whoever sends it. Those that other open rounds are still to make are taken already. Whoever comes after the last one waits on
 * that channel; whoever is let through takes none of them.
 */
export const messageRequests: RuleKind<MessageRequestsRule> = {
  name: 'Message requests left',
  about: 'keeps direct messages that cost a request within so many in a period, and says how many are left',
  schema,
  usual: { off: false, most: 50, days: 30, answered: 'is given back', first: 'longest in the directory' },
  form: [
    { key: 'most', label: 'Requests', is: 'number', least: 0, most: 1_000_000, unit: 'requests' },
    { key: 'days', label: 'In', is: 'number', least: 1, most: 3650, unit: 'days' },
    {
      key: 'answered',
      label: 'A request that is answered',
      is: 'one',
      of: [
        ['is given back', 'is given back'],
        ['stays used', 'stays used'],
      ],
    },
    { key: 'first', label: 'Who comes first', is: 'one', of: FIRST.map((own) => [own, own]) },
  ],
  optional: true,
  sentence: ({ most, days }) => [
    { text: 'At most' },
    { chip: `${countText(most)} message requests`, field: 'most' },
    { text: 'in' },
    { chip: `${days} days`, field: 'days' },
  ],
  note(rule, moment) {
    const known = moment.allowances?.[rule.id]
    const how = `for people who take direct messages by request; an open message costs none`
    if (!known) return how
    const { used, refunded, toCome } = known
    return `${how}. ${countText(used)} used${rule.answered === 'is given back' ? `, ${countText(refunded)} given back` : ''}${toCome > 0 ? `, ${countText(toCome)} still to send in other rounds` : ''}: ${countText(requestsLeft(rule, known))} left`
  },
  closes: () => null,
  mark: () => {},
  waits(rule, columns, open, moment, channels) {
    const waiting = new Map<number, Wait[]>()
    if (!channels.includes('direct')) return waiting
    const left = requestsLeft(rule, moment.allowances?.[rule.id] ?? NOTHING_USED)
    const asked: number[] = []
    open.clear.direct.forEach((n) => {
      if (customAt(columns, n, FIELD.direct) === BY_REQUEST) asked.push(n)
    })
    if (asked.length <= left) return waiting
    const wait: Wait[] = [{ evidence: { kind: 'allowance', most: rule.most, days: rule.days, left }, channels: ['direct'] }]
    for (const n of rankedNumbers(rule.first, columns, open, asked).slice(left)) waiting.set(n, wait)
    return waiting
  },
}

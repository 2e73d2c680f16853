import { boolean, type InferType, number, object, string } from 'yup'
import { CHANNEL_NAME, CHANNELS, type Channel } from '../records/channels'
import { countText, moneyText } from '../text/written'
import { planReach, type ReachClass } from '../rounds/reach-plan'
import { type RuleField, type RuleKind, ruleParts, type Wait } from './kind'
import { FIRST, rankedNumbers } from './ranked'

const NONE = 'none'
const MAY_BE = [...CHANNELS, NONE] as const
const limit = () => number().integer('whole contacts').min(0).max(10_000_000).optional()
const price = () => number().integer('whole pence').min(0).max(1_000_000).optional()

const schema = object({
  ...ruleParts,
  kind: string()
    .oneOf(['one-channel'] as const)
    .required(),
  off: boolean().default(false),
  /** The channels in the order in which they are preferred. */
  first: string().oneOf(CHANNELS).required(),
  second: string().oneOf(MAY_BE).required(),
  third: string().oneOf(MAY_BE).required(),
  fourth: string().oneOf(MAY_BE).required(),
  /** So many contacts by a channel at most; no limit where it is not said. */
  mostEmail: limit(),
  mostPhone: limit(),
  mostPost: limit(),
  mostDirect: limit(),
  /** What a contact costs, in minor units of the team's money. */
  costEmail: price(),
  costPhone: price(),
  costPost: price(),
  costDirect: price(),
  /** What all contacts may cost, in whole units of the team's money, a hundred minor ones each. */
  budget: number().integer('whole amounts').min(0).max(100_000_000).optional(),
  /** Over how many weeks contacts are made; what can be done in a week is had so many times. */
  weeks: number().integer('whole weeks').min(1).max(52).optional(),
  callers: number().integer('whole callers').min(0).max(1000).optional(),
  callsEach: number().integer('whole calls').min(1).max(10_000).optional(),
  weekEmail: limit(),
  weekPost: limit(),
  weekDirect: limit(),
  /** So many people at most. */
  wanted: limit(),
  /** Who comes first among people who are equal otherwise. */
  who: string().oneOf(FIRST).required(),
})
  .noUnknown()
  .test('once', 'each channel stands once in the order', ({ first, second, third, fourth }) => {
    const named = [first, second, third, fourth].filter((own) => own !== NONE)
    return new Set(named).size === named.length
  })
export type OneChannelRule = InferType<typeof schema>

const MOST = { email: 'mostEmail', phone: 'mostPhone', post: 'mostPost', direct: 'mostDirect' } as const
const WEEK = { email: 'weekEmail', post: 'weekPost', direct: 'weekDirect' } as const
const COST = { email: 'costEmail', phone: 'costPhone', post: 'costPost', direct: 'costDirect' } as const

/** So many contacts by a channel can be made a week; null is no limit. */
export function aWeekBy(rule: OneChannelRule, channel: Channel): number | null {
  if (channel !== 'phone') return rule[WEEK[channel]] ?? null
  return rule.callers === undefined || rule.callsEach === undefined ? null : rule.callers * rule.callsEach
}

/** Whether a rule spreads its contacts over weeks. */
export const byWeeks = (rule: OneChannelRule): boolean => CHANNELS.some((channel) => aWeekBy(rule, channel) !== null)

/** So many contacts by a channel at most, over all weeks; null is no limit. */
export function mostBy(rule: OneChannelRule, channel: Channel): number | null {
  const aWeek = aWeekBy(rule, channel)
  const both = [rule[MOST[channel]] ?? null, aWeek === null ? null : aWeek * (rule.weeks ?? 1)].filter((own) => own !== null)
  return both.length === 0 ? null : Math.min(...both)
}

/** The channels of a rule in their order. */
export const orderOf = ({ first, second, third, fourth }: OneChannelRule): Channel[] =>
  [first, second, third, fourth].filter((own): own is Channel => own !== NONE)

/** What a contact by a channel costs by a rule, in minor units; null where it says nothing of it. */
export const costBy = (rule: OneChannelRule, channel: Channel): number | null => rule[COST[channel]] ?? null

/** The first rule of the kind that is on, where there is one. */
export const oneChannelIn = (rules: readonly { kind: string }[]): OneChannelRule | undefined =>
  rules.find((own): own is OneChannelRule => own.kind === 'one-channel' && !(own as OneChannelRule).off)

/** What contacts cost by the plan of some rules, in minor units; null where it sets no costs, or there is no plan. */
export function planCost(rules: readonly { kind: string }[], contacts: Readonly<Record<Channel, number>>): number | null {
  const rule = oneChannelIn(rules)
  if (!rule || CHANNELS.every((channel) => costBy(rule, channel) === null)) return null
  return CHANNELS.reduce((sum, channel) => sum + contacts[channel] * (costBy(rule, channel) ?? 0), 0)
}

const asChoices = (of: readonly string[]) => of.map((own) => [own, own === NONE ? 'no other' : CHANNEL_NAME[own as Channel]] as const)
const each = <R>(keys: Record<Channel, keyof R & string>, says: (channel: string) => string, unit: string, empty: string): RuleField<R>[] =>
  CHANNELS.map((channel) => ({
    key: keys[channel],
    label: says(CHANNEL_NAME[channel]),
    is: 'number',
    least: 0,
    most: 1_000_000,
    unit,
    empty,
  }))

/**
 * One contact each: by the first channel of an order that the plan has for them, within limits by channel and a budget. The plan seeks the
 * most people first, then the preferred channels, then the least cost, and is exact (`planReach`). Whoever is contacted by one channel waits
 * on the others; whoever no channel is left for waits on all, and is told why: the people wanted, the budget, or what can be done in the
 * weeks. It goes by who is still open after the rules before it.
 */
export const oneChannel: RuleKind<OneChannelRule> = {
  name: 'One channel each',
  about: 'contacts each person by one channel: the first of your order that is clear, within limits and a budget',
  schema,
  usual: { off: false, first: 'phone', second: 'post', third: 'email', fourth: NONE, who: 'most ways to reach' },
  form: [
    { key: 'first', label: 'First by', is: 'one', of: asChoices(CHANNELS) },
    { key: 'second', label: 'else by', is: 'one', of: asChoices(MAY_BE) },
    { key: 'third', label: 'else by', is: 'one', of: asChoices(MAY_BE) },
    { key: 'fourth', label: 'else by', is: 'one', of: asChoices(MAY_BE) },
    ...each<OneChannelRule>(MOST, (channel) => `At most by ${channel}`, 'contacts', 'no limit'),
    ...each<OneChannelRule>(COST, (channel) => `Cost by ${channel}`, 'pence or cents each', 'nothing'),
    { key: 'weeks', label: 'Over', is: 'number', least: 1, most: 52, unit: 'weeks', empty: 'one week' },
    { key: 'callers', label: 'Callers', is: 'number', least: 0, most: 1000, unit: 'colleagues', empty: 'no limit' },
    { key: 'callsEach', label: 'Calls a caller makes', is: 'number', least: 1, most: 10_000, unit: 'a week', empty: 'no limit' },
    ...(['email', 'post', 'direct'] as const).map(
      (channel): RuleField<OneChannelRule> => ({
        key: WEEK[channel],
        label: `By ${CHANNEL_NAME[channel]}`,
        is: 'number',
        least: 0,
        most: 1_000_000,
        unit: 'a week',
        empty: 'no limit',
      }),
    ),
    { key: 'wanted', label: 'People wanted', is: 'number', least: 0, most: 1_000_000, unit: 'in all', empty: 'as many as can be' },
    { key: 'budget', label: 'Budget', is: 'number', least: 0, most: 100_000_000, unit: 'in all', empty: 'no limit' },
    { key: 'who', label: 'Who comes first', is: 'one', of: FIRST.map((own) => [own, own]) },
  ],
  optional: true,
  sentence: (rule) => [
    { text: 'One channel each:' },
    {
      chip: orderOf(rule)
        .map((own) => CHANNEL_NAME[own])
        .join(', else '),
      field: 'first',
    },
    ...CHANNELS.flatMap((channel) => {
      const most = rule[MOST[channel]]
      return most === undefined ? [] : [{ text: ', at most' }, { chip: `${most} by ${CHANNEL_NAME[channel]}`, field: MOST[channel] }]
    }),
    ...(byWeeks(rule)
      ? [{ text: ', over' }, { chip: rule.weeks === undefined || rule.weeks === 1 ? '1 week' : `${rule.weeks} weeks`, field: 'weeks' }]
      : []),
    ...(rule.callers === undefined || rule.callsEach === undefined
      ? []
      : [{ text: 'with' }, { chip: rule.callers === 1 ? '1 caller' : `${rule.callers} callers`, field: 'callers' }]),
    ...(rule.wanted === undefined
      ? []
      : [{ text: ', at most' }, { chip: rule.wanted === 1 ? '1 person' : `${countText(rule.wanted)} people`, field: 'wanted' }]),
    ...(rule.budget === undefined ? [] : [{ text: ', within' }, { chip: `a budget of ${moneyText(rule.budget)}`, field: 'budget' }]),
  ],
  note: ({ who }) => `the most people first, then the preferred channels, then the least cost; ${who} first`,
  closes: () => null,
  mark: () => {},
  waits(rule, columns, open, _moment, channels) {
    const order = orderOf(rule).filter((own) => channels.includes(own))
    const members = new Map<number, number[]>()
    open.anyone.forEach((n) => {
      const mask = channels.reduce((sum, channel, i) => sum + (open.clear[channel].has(n) ? 1 << i : 0), 0)
      const own = members.get(mask)
      if (own) own.push(n)
      else members.set(mask, [n])
    })
    // Sets of channels in an order of their own, so that the same people are always planned the same way.
    const masks = [...members.keys()].sort((a, b) => a - b)
    const classes = masks.map(
      (mask): ReachClass => ({
        channels: channels.filter((_, i) => mask & (1 << i)),
        size: (members.get(mask) as number[]).length,
      }),
    )
    const limits = Object.fromEntries(CHANNELS.map((channel) => [channel, mostBy(rule, channel)]))
    const costs = Object.fromEntries(CHANNELS.map((channel) => [channel, rule[COST[channel]] ?? 0]))
    const asked = {
      order,
      most: limits,
      cost: costs,
      budget: rule.budget === undefined ? null : rule.budget * 100,
      people: rule.wanted ?? null,
    }
    const { given, people } = planReach(classes, asked)
    // Of those who wait on every channel it is told what keeps them: what binds first, in this order.
    const more = (without: Partial<typeof asked>) => planReach(classes, { ...asked, ...without }).people > people
    const because =
      rule.wanted !== undefined && more({ people: null }) ? 'wanted' : asked.budget !== null && more({ budget: null }) ? 'budget' : 'limits'
    const waiting = new Map<number, Wait[]>()
    masks.forEach((mask, i) => {
      const ranked = rankedNumbers(rule.who, columns, open, members.get(mask) as number[])
      let at = 0
      order.forEach((by, c) => {
        const others = classes[i].channels.filter((channel) => channel !== by)
        const wait: Wait[] = others.length === 0 ? [] : [{ evidence: { kind: 'planned', by }, channels: others }]
        for (let k = 0; k < given[i][c]; k++, at++) if (wait.length > 0) waiting.set(ranked[at], wait)
      })
      const none = !order.some((channel) => classes[i].channels.includes(channel))
      const left: Wait[] = [{ evidence: { kind: 'planned', by: null, ...(none ? {} : { because }) }, channels: classes[i].channels }]
      for (; at < ranked.length; at++) waiting.set(ranked[at], left)
    })
    return waiting
  },
}

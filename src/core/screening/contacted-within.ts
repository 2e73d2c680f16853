import { array, boolean, type InferType, number, object, string } from 'yup'
import { withinDaysFrom } from '../calendar/local-day'
import type { PeopleColumns } from '../columns/people-columns'
import { contactedSince, GROUP_NAME, groupsOf } from './groups'
import { GROUPS } from '../records/person-record'
import { CLOSES, markRows, type RuleKind, recordRuleParts } from './kind'
import { CHANNEL_NAME, CHANNELS, WAYS, waysText } from '../records/channels'

const schema = object({
  ...recordRuleParts,
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
  /** Whose contacts count; the person's alone where it is not said. */
  counted: string()
    .oneOf(['person', ...GROUPS] as const)
    .optional(),
}).noUnknown()
export type ContactedWithinRule = InferType<typeof schema>

/**
 * Contacted in the last N calendar days by anyone on the team, in the ways that count: email, phone, post and direct
 * message unless others are chosen. Contacts made count; those that another round is still to make have their own rule. Counted for an
 * organisation or a household, a contact of one of them closes all of them.
 */
export const contactedWithin: RuleKind<ContactedWithinRule> = {
  name: 'Contacted recently',
  about: 'rests whom somebody on the team contacted lately, by themselves or with their household or organisation',
  schema,
  usual: { off: false, days: 30, closes: 'every channel' },
  form: [
    { key: 'days', label: 'Hold back after a contact', is: 'number', least: 1, most: 3650, unit: 'days' },
    { key: 'ways', label: 'Contacts that count', is: 'some', of: WAYS.map((way) => [way, CHANNEL_NAME[way]]), all: 'the four channels' },
    {
      key: 'counted',
      label: 'Whose contacts count',
      is: 'one',
      of: [
        ['person', 'their own'],
        ['household', 'those of their household'],
        ['organisation', 'those of their organisation'],
      ],
    },
    CLOSES,
  ],
  optional: true,
  sentence: ({ days, counted = 'person' }) => [
    { text: counted === 'person' ? 'Contacted in the last' : `Somebody of ${GROUP_NAME[counted]} contacted in the last` },
    { chip: `${days} days`, field: 'days' },
  ],
  note: ({ closes, ways }) =>
    `${waysText(ways)}, by anyone on the team${closes === 'every channel' ? '' : '; closes only the channel it was made by'}`,
  around: ({ days, counted = 'person' }, { asOf, zone }) => (counted === 'person' ? null : withinDaysFrom(asOf, days, zone)),
  closes(rule, record, address, moment) {
    const from = withinDaysFrom(moment.asOf, rule.days, moment.zone)
    const ways: readonly string[] = rule.ways ?? CHANNELS
    const counts = (way: string) => ways.includes(way) && (rule.closes === 'every channel' || way === address.channel)
    const others = (record.around ?? []).filter((c) => c.of === rule.counted)
    // Their own contact is told before one of somebody else.
    for (const contacts of [record.contacts, others]) {
      const latest = contacts.filter((c) => c.at >= from && counts(c.channel)).sort((a, b) => b.at - a.at || personOf(a) - personOf(b))[0]
      if (latest)
        return {
          kind: 'contact',
          at: latest.at,
          channel: latest.channel,
          by: latest.by,
          ...('person' in latest ? { of: personOf(latest) } : {}),
        }
    }
    return null
  },
  mark(rule, columns, listed, moment, marks) {
    const from = withinDaysFrom(moment.asOf, rule.days, moment.zone)
    const every = rule.closes === 'every channel'
    const ways = rule.ways ?? CHANNELS
    const counted = ways.reduce((bits, way) => bits | (1 << WAYS.indexOf(way)), 0)
    const close = (n: number, by: number) => {
      if (by !== 0) markRows(columns, n, marks.ours, every ? undefined : (c) => (by & (1 << c)) !== 0)
    }
    if (rule.counted === undefined || rule.counted === 'person') {
      const { last } = columns.contactSums(ways, null)
      // Few of many were contacted lately: only their contacts are looked at, and only where it matters by which channel they were made.
      listed.between(last, from, Number.POSITIVE_INFINITY).forEach((n) => close(n, every ? counted : waysSince(columns, n, from) & counted))
      return
    }
    const groups = groupsOf(columns, rule.counted)
    const wanted = new Uint8Array(groups.size)
    listed.forEach((n) => {
      if (groups.of[n] >= 0) wanted[groups.of[n]] = 1
    })
    // A bit a way of each group.
    const byGroup = new Uint8Array(groups.size)
    for (const [group, members] of contactedSince(columns, groups, ways, from).members)
      if (wanted[group] === 1) byGroup[group] = members.reduce((bits, n) => bits | waysSince(columns, n, from), 0) & counted
    listed.forEach((n) => close(n, groups.of[n] < 0 ? waysSince(columns, n, from) & counted : byGroup[groups.of[n]]))
  },
}

/** Whose contact it is; of two at one instant the same is told, whatever order they come in. */
const personOf = (contact: object): number => ('person' in contact ? (contact.person as number) : 0)

/** The ways in which somebody was contacted since an instant, a bit each by its place in WAYS. */
function waysSince(columns: PeopleColumns, n: number, from: number): number {
  const { at, channel } = columns.contacts.fields
  const first = columns.contacts.first(n)
  let by = 0
  for (let i = first; i < first + columns.contacts.count(n); i++) if (at[i] >= from) by |= 1 << channel[i]
  return by
}

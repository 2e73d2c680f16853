import { array, type InferType, number, object, string } from 'yup'
import { localDate, withinDaysFrom } from '../calendar/local-day'
import { Bitset } from '../columns/bitset'
import type { Contact } from '../records/person-record'
import { flags } from '../columns/people-columns'
import { ALL_RESULTS } from '../records/results'
import { within } from './range'
import { chips, type CriterionKind, type Moment, namesNothing, rangeText } from './kind'
import { CHANNELS, type Way, WAYS, waysText } from '../records/channels'

const end = () => number().integer().min(0).max(100_000).nullable().defined()

const schema = object({
  kind: string()
    .oneOf(['contact-count'] as const)
    .required(),
  least: end(),
  most: end(),
  /** Only contacts within so many days; all of them where it is null. */
  days: number().integer().min(1).max(3650).nullable().defined(),
  /** Only with one of these results; any where there is none. */
  results: array(string().oneOf(ALL_RESULTS).required()).max(40).required(),
  /** Which contacts count; the four channels where it is not said. */
  ways: array(string().oneOf(WAYS).required()).min(1, 'choose at least one way of contact').optional(),
  by: object({ id: string().required(), name: string().required() }).nullable().default(null),
})
  .noUnknown()
  .test('ends', 'say at least how often, or at most', (v) => v.least !== null || v.most !== null)
  .test('order', 'the least is more than the most', (v) => v.least === null || v.most === null || v.least <= v.most)
export type ContactCountCriterion = InferType<typeof schema>

/** How often somebody was contacted, by whom, in which ways, with which results. Never contacted is none, and known. */
export const contactCount: CriterionKind<ContactCountCriterion> = {
  name: 'How often contacted, or with what result',
  synonyms: [
    'contact history',
    'outcome',
    'number of contacts',
    'attempts',
    'touches',
    'result',
    'opened',
    'replied',
    'bounced',
    'no answer',
    'meeting',
  ],
  inName: 'sentence',
  single: false,
  probe: null,
  named: namesNothing,
  of: 'person',
  group: 'history',
  schema,
  blank: { kind: 'contact-count', least: 1, most: null, days: null, results: [], by: null },
  sentence: (c) => [
    { text: 'was contacted' },
    { chip: `${rangeText(c.least === null ? null : String(c.least), c.most === null ? null : String(c.most))} times`, field: 'least' },
    ...(c.results.length > 0 ? [{ text: 'with the result' }, ...chips(c.results, 'results', 'any')] : []),
    ...(c.days === null ? [] : [{ text: 'within' }, { chip: `${c.days} days`, field: 'days' }]),
    { text: 'by' },
    { chip: c.by?.name ?? 'anyone', field: 'by' },
    { text: 'counting' },
    { chip: waysText(c.ways), field: 'ways' },
  ],
  asks: () => ['contact'],
  varies: (c, { asOf, zone }) => (c.days === null ? '' : localDate(asOf, zone)),
  verdict: (c, record, moment) => (within(c, record.contacts.filter(counted(c, moment)).length) ? 'yes' : 'no'),
  evaluate(c, columns, moment) {
    const between = (counts: Int32Array) => ({
      yes: columns.live.between(counts, c.least ?? 0, (c.most ?? Number.POSITIVE_INFINITY) + 1),
      unknown: new Bitset(columns.size),
    })
    const results = c.results.length === 0 ? null : c.results
    if (c.days === null) return between(columns.contactSums(counting(c), c.by?.id ?? null, results).count)
    const by = c.by === null ? -1 : columns.actorCode(c.by.id)
    const from = withinDaysFrom(moment.asOf, c.days, moment.zone)
    const ways = Uint8Array.from(WAYS, (way) => (counting(c).includes(way) ? 1 : 0))
    const asked = flags(results)
    const { contacts } = columns
    const { at, channel, by: byCode, result } = contacts.fields
    // The contacts are passed over as they stand, and counted for whose they are.
    const counts = new Int32Array(columns.size)
    const { owner, rows } = contacts
    for (let i = 0; i < rows; i++)
      if (ways[channel[i]] === 1 && owner[i] >= 0 && at[i] >= from && (by < 0 || byCode[i] === by) && asked[result[i]] === 1)
        counts[owner[i]]++
    return between(counts)
  },
}

const counting = (c: ContactCountCriterion): readonly Way[] => c.ways ?? CHANNELS

function counted(c: ContactCountCriterion, { asOf, zone }: Moment): (contact: Contact) => boolean {
  const from = c.days === null ? Number.NEGATIVE_INFINITY : withinDaysFrom(asOf, c.days, zone)
  return ({ at, channel, by, result }) =>
    at >= from &&
    counting(c).includes(channel) &&
    (c.by === null || c.by.id === by) &&
    (c.results.length === 0 || (result != null && (c.results as readonly string[]).includes(result)))
}

import { array, type InferType, number, object, string } from 'yup'
import { Bitset } from '../columns/bitset'
import { NEVER } from '../columns/people-columns'
import { localDate, startOfDate, withinDaysFrom } from '../calendar/local-day'
import { type CriterionKind, type Moment, namesNothing } from './kind'
import { dateText } from '../text/written'
import { CHANNELS, type Way, WAYS, waysText } from '../records/channels'

const schema = object({
  kind: string()
    .oneOf(['contacted'] as const)
    .required(),
  how: string()
    .oneOf(['never', 'before', 'within'] as const)
    .required(),
  days: number()
    .integer()
    .min(1, 'days: 1 or more')
    .max(3650)
    .when('how', { is: 'within', then: (s) => s.required('name the number of days') }),
  date: string()
    .matches(/^\d{4}-\d\d-\d\d$/, 'date: year-month-day')
    .when('how', { is: 'before', then: (s) => s.required('name the date') }),
  /** Which contacts count; the four channels where it is not said. */
  ways: array(string().oneOf(WAYS).required()).min(1, 'choose at least one way of contact').optional(),
  by: object({ id: string().required(), name: string().required() }).nullable().default(null),
}).noUnknown()
export type ContactedCriterion = InferType<typeof schema>

/**
 * When they were last contacted, in the ways that count (email, phone, post and direct message unless others are
 * chosen), by anyone or by one of us. *Never* is known: no such contact entry. *Before* asks for a last contact that lies before a date, so somebody never contacted answers no.
 */
export const contacted: CriterionKind<ContactedCriterion> = {
  name: 'Last contacted',
  synonyms: ['contact date', 'contact history', 'not contacted since', 'recently contacted', 'never contacted', 'recency'],
  inName: 'sentence',
  single: false,
  probe: null,
  named: namesNothing,
  of: 'person',
  group: 'history',
  schema,
  blank: { kind: 'contacted', how: 'within', days: 30, by: null },
  sentence(c) {
    const when =
      c.how === 'never'
        ? 'never contacted'
        : c.how === 'before'
          ? c.date
            ? `last contacted before ${dateText(c.date)}`
            : 'last contacted before when?'
          : `contacted within ${c.days} days`
    return [
      { text: 'was' },
      { chip: when, field: 'how' },
      { text: 'by' },
      { chip: c.by?.name ?? 'anyone', field: 'by' },
      { text: 'counting' },
      { chip: waysText(c.ways), field: 'ways' },
    ]
  },
  asks: () => ['contact'],
  varies: (c, { asOf, zone }) => (c.how === 'within' ? localDate(asOf, zone) : ''),
  verdict(c, record, moment) {
    const made = record.contacts.filter((contact) => (c.by === null || contact.by === c.by.id) && counted(c).includes(contact.channel))
    const last = Math.max(NEVER, ...made.map((contact) => contact.at))
    const [from, below] = lastBetween(c, moment)
    return last >= from && last < below ? 'yes' : 'no'
  },
  evaluate(c, columns, moment) {
    const { last } = columns.contactSums(counted(c), c.by?.id ?? null)
    const [from, below] = lastBetween(c, moment)
    return { yes: columns.live.between(last, from, below), unknown: new Bitset(columns.size) }
  },
}

const counted = (c: ContactedCriterion): readonly Way[] => c.ways ?? CHANNELS

/** When the last contact was, in UTC milliseconds: from the first on, and before the second. Never is before any instant. */
function lastBetween(c: ContactedCriterion, { asOf, zone }: Moment): [from: number, below: number] {
  if (c.how === 'never') return [NEVER, -Number.MAX_VALUE]
  if (c.how === 'before') return [-Number.MAX_VALUE, startOfDate(c.date as string, zone)]
  return [withinDaysFrom(asOf, c.days as number, zone), Number.POSITIVE_INFINITY]
}

import { type InferType, mixed, number, object, string } from 'yup'
import { localDate, withinDaysFrom } from '../calendar/local-day'
import { Bitset } from '../columns/bitset'
import { NEVER } from '../columns/people-columns'
import { ANSWERS, INTEREST } from '../records/results'
import { type CriterionKind, type Moment, namesNothing } from './kind'
import { WAYS } from '../records/channels'

const schema = object({
  kind: string()
    .oneOf(['interest'] as const)
    .required(),
  /** A sign of interest is an opened email or more; an answer is a word from them. */
  sign: mixed<'interest' | 'answer'>().oneOf(['interest', 'answer']).required(),
  how: mixed<'never' | 'within' | 'longer ago'>().oneOf(['never', 'within', 'longer ago']).required(),
  days: number().integer().min(1, 'days: 1 or more').max(3650).nullable().defined(),
})
  .noUnknown()
  .test('days', 'name the number of days', (v) => v.how === 'never' || v.days !== null)
export type InterestCriterion = InferType<typeof schema>

/** When they last showed interest, or last answered, by what came of contacts made in any way. Never is known. */
export const interest: CriterionKind<InterestCriterion> = {
  name: 'Last sign of interest, or answer',
  synonyms: ['engagement', 'engaged', 'last reply', 'last answer', 'warm', 'gone quiet', 'inactive', 'lead'],
  inName: 'sentence',
  single: false,
  probe: null,
  named: namesNothing,
  of: 'person',
  group: 'history',
  schema,
  blank: { kind: 'interest', sign: 'interest', how: 'within', days: 180 },
  sentence: ({ sign, how, days }) => [
    { text: sign === 'interest' ? 'showed interest' : 'answered' },
    { chip: how === 'never' ? 'never' : how === 'within' ? `within ${days} days` : `last more than ${days} days ago`, field: 'how' },
  ],
  asks: () => ['contact'],
  varies: (c, { asOf, zone }) => (c.how === 'never' ? '' : localDate(asOf, zone)),
  verdict(c, record, moment) {
    const signs = record.contacts
      .filter(({ result }) => result != null && (signsOf(c) as readonly string[]).includes(result))
      .map(({ at }) => at)
    const last = Math.max(NEVER, ...signs)
    const [from, below] = lastBetween(c, moment)
    return last >= from && last < below ? 'yes' : 'no'
  },
  evaluate(c, columns, moment) {
    const [from, below] = lastBetween(c, moment)
    return { yes: columns.live.between(columns.contactSums(WAYS, null, signsOf(c)).last, from, below), unknown: new Bitset(columns.size) }
  },
}

const signsOf = ({ sign }: InterestCriterion) => (sign === 'interest' ? INTEREST : ANSWERS)

/** When the last sign was, in UTC milliseconds: from the first on, and before the second. Never is before any instant. */
function lastBetween({ how, days }: InterestCriterion, { asOf, zone }: Moment): [from: number, below: number] {
  if (how === 'never') return [NEVER, -Number.MAX_VALUE]
  const since = withinDaysFrom(asOf, days as number, zone)
  return how === 'within' ? [since, Number.POSITIVE_INFINITY] : [-Number.MAX_VALUE, since]
}

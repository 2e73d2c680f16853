import { type InferType, mixed, number, object, string } from 'yup'
import { localDate, withinDaysFrom } from '../calendar/local-day'
import { ANSWERS, INTEREST, resultCode } from '../rounds/results'
import type { CriterionKind } from './kind'

const schema = object({
  kind: string().oneOf(['interest'] as const).required(),
  /** A sign of interest is an opened e-mail or more; an answer is a word from them. */
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
    const signs = record.contacts.filter(({ result }) => result != null && (signsOf(c) as readonly string[]).includes(result)).map(({ at }) => at)
    return holds(c, Math.max(...signs, Number.NEGATIVE_INFINITY), c.days === null ? 0 : withinDaysFrom(moment.asOf, c.days, moment.zone)) ? 'yes' : 'no'
  },
  evaluate(c, columns, moment) {
    const from = c.days === null ? 0 : withinDaysFrom(moment.asOf, c.days, moment.zone)
    const counts = new Uint8Array(256)
    for (const result of signsOf(c)) counts[resultCode(result)] = 1
    const { contacts } = columns
    const { at, result } = contacts.fields
    return columns.live.split((n) => {
      let last = Number.NEGATIVE_INFINITY
      const end = contacts.first(n) + contacts.count(n)
      for (let i = contacts.first(n); i < end; i++) if (counts[result[i]] === 1 && at[i] > last) last = at[i]
      return holds(c, last, from) ? 1 : 0
    })
  },
}

const signsOf = ({ sign }: InterestCriterion) => (sign === 'interest' ? INTEREST : ANSWERS)

function holds({ how }: InterestCriterion, last: number, from: number): boolean {
  if (how === 'never') return last === Number.NEGATIVE_INFINITY
  return how === 'within' ? last >= from : last !== Number.NEGATIVE_INFINITY && last < from
}

import { type InferType, number, object, string } from 'yup'
import { localDate } from '../calendar/local-day'
import { customKey } from '../clean/custom'
import { FIELD } from '../clean/standard-fields'
import { monthsBefore } from '../calendar/local-day'
import { within } from './range'
import { type CriterionKind, type Moment, rangeText, namesNothing } from './kind'

const end = () => number().integer().min(0).max(1_000_000).nullable().defined()

const schema = object({
  kind: string()
    .oneOf(['holdings'] as const)
    .required(),
  least: end(),
  most: end(),
  /** Only what the owner took over within so many months; all that is theirs where it is null. */
  months: number().integer().min(1).max(1200).nullable().defined(),
})
  .noUnknown()
  .test('ends', 'say at least how many, or at most', (v) => v.least !== null || v.most !== null)
  .test('order', 'the least is more than the most', (v) => v.least === null || v.most === null || v.least <= v.most)
export type HoldingsCriterion = InferType<typeof schema>

/**
 * How many premises their owner has, or took over within a period, these included. Owners are told apart by the comparable
 * form of their name and address; premises whose owner is not known are unknown. What was taken over on a date not known
 * does not count for a period.
 */
export const holdings: CriterionKind<HoldingsCriterion, 'premises'> = {
  name: 'How many premises the owner has',
  synonyms: ['portfolio', 'number of properties', 'landlord', 'investor', 'multiple properties'],
  inName: { before: '', after: 'premises of one owner' },
  single: false,
  probe: { kind: 'holdings', least: 1, most: null, months: null },
  named: namesNothing,
  of: 'premises',
  group: 'premises',
  schema,
  blank: { kind: 'holdings', least: 2, most: null, months: null },
  whose: true,
  sentence: ({ least, most, months }) => [
    { text: months === null ? 'premises’ owner has' : 'premises’ owner took over' },
    { chip: rangeText(least === null ? null : String(least), most === null ? null : String(most)), field: 'least' },
    { text: months === null ? 'premises' : 'premises within' },
    ...(months === null ? [] : [{ chip: `${months} months`, field: 'months' }]),
  ],
  asks: () => ['owner', customKey(FIELD.transferDate)],
  varies: ({ months }, { asOf, zone }) => (months === null ? '' : localDate(asOf, zone)),
  verdict(c, record, moment) {
    if (record.ownerKey === null) return 'unknown'
    const counts = counted(c, moment)
    return within(c, (record.holdings ?? []).filter(counts).length) ? 'yes' : 'no'
  },
  evaluate(c, columns, moment) {
    const { ownerKey, live } = columns
    const dates = columns.custom.get(FIELD.transferDate)
    const counts = counted(c, moment)
    const each = new Int32Array(ownerKey.words.length)
    live.forEach((n) => {
      const owner = ownerKey.codeAt(n)
      if (owner >= 0 && counts(dates?.get(n) ?? null)) each[owner]++
    })
    return live.split((n) => {
      const owner = ownerKey.codeAt(n)
      return owner < 0 ? 2 : within(c, each[owner]) ? 1 : 0
    })
  },
}

function counted({ months }: HoldingsCriterion, { asOf, zone }: Moment): (date: string | null) => boolean {
  if (months === null) return () => true
  const from = monthsBefore(localDate(asOf, zone), months)
  return (date) => date !== null && date >= from
}

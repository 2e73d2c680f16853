import { boolean, type InferType, object, string } from 'yup'
import { TZDate } from '@date-fns/tz'
import type { PeopleColumns } from '../columns/people-columns'
import { countryAt, countryOf } from './country-of'
import { type Evidence, type markRows, recordRuleParts, type RuleKind, type ScreeningMoment } from './kind'

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['quiet-days'] as const)
    .required(),
  off: boolean().default(false),
  weekends: string()
    .oneOf(['quiet', 'not quiet'] as const)
    .required(),
  /** Whether it is asked when a round is screened and released, too, or only when a contact is about to be made. */
  asked: string()
    .oneOf(['before each contact', 'at the release, too'] as const)
    .required(),
}).noUnknown()
export type QuietDaysRule = InferType<typeof schema>

/** Why today is quiet in a country; where the country is not known, in any that the rule is for. Null where it is not. */
function quietIn(rule: QuietDaysRule, country: string | null, { asOf, zone, holidays, now }: ScreeningMoment): Evidence | null {
  if (rule.asked === 'before each contact' && !now) return null
  const day = new TZDate(asOf, zone).getDay()
  if (rule.weekends === 'quiet' && (day === 0 || day === 6)) return { kind: 'quiet-day', day: day === 0 ? 'Sunday' : 'Saturday', country }
  const asked = country === null ? (rule.countries ?? Object.keys(holidays ?? {})) : [country]
  for (const own of asked) {
    const name = holidays?.[own]
    if (name) return { kind: 'quiet-day', day: name, country: own }
  }
  return null
}

/** Public holidays where somebody is, and weekends where the team says so. */
export const quietDays: RuleKind<QuietDaysRule> = {
  name: 'Quiet days',
  about: 'makes no contact on public holidays where the person is, nor at weekends if you like',
  schema,
  usual: { off: false, channels: ['phone'], weekends: 'not quiet', asked: 'before each contact' },
  form: [
    {
      key: 'weekends',
      label: 'Saturdays and Sundays',
      is: 'one',
      of: [
        ['not quiet', 'are no quiet days'],
        ['quiet', 'are quiet days as well'],
      ],
    },
    {
      key: 'asked',
      label: 'Asked',
      is: 'one',
      of: [
        ['before each contact', 'before each contact only'],
        ['at the release, too', 'when the round is released, too'],
      ],
    },
  ],
  optional: true,
  sentence: ({ weekends }) => [
    { text: 'Quiet days:' },
    { chip: weekends === 'quiet' ? 'public holidays and weekends' : 'public holidays', field: 'weekends' },
  ],
  note: ({ asked }) =>
    `where the person is; asked ${asked === 'before each contact' ? 'before each contact only' : 'at the release and before each contact'}`,
  closes: (rule, record, address, moment) => quietIn(rule, countryOf(record, address), moment),
  mark(rule, columns, listed, moment, { ours }) {
    if (rule.asked === 'before each contact' && !moment.now) return
    const known = new Map<string | null, boolean>()
    const quiet = (country: string | null) => {
      let said = known.get(country)
      if (said === undefined) known.set(country, (said = quietIn(rule, country, moment) !== null))
      return said
    }
    listed.forEach((n) => markQuiet(columns, n, ours, quiet))
  },
}

function markQuiet(columns: PeopleColumns, n: number, rows: Parameters<typeof markRows>[2], quiet: (country: string | null) => boolean) {
  const first = columns.addresses.first(n)
  for (let row = first; row < first + columns.addresses.count(n); row++) if (quiet(countryAt(columns, row))) rows.add(row)
}

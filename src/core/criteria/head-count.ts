import { array, type InferType, object, string } from 'yup'
import { type CriterionKind, chips, steady, namesNothing } from './kind'

/**
 * Bands of how many work at an organisation, both ends included. Source of the borders 10, 50 and 250: Commission
 * Recommendation 2003/361/EC, annex, article 2 (micro, small and medium-sized enterprises); 1,000 is common practice.
 */
export const BANDS = {
  '1 to 9': [1, 9],
  '10 to 49': [10, 49],
  '50 to 249': [50, 249],
  '250 to 999': [250, 999],
  '1,000 or more': [1000, Number.POSITIVE_INFINITY],
} as const
export type Band = keyof typeof BANDS
export const BAND_NAMES = Object.keys(BANDS) as Band[]

const schema = object({
  kind: string()
    .oneOf(['head-count'] as const)
    .required(),
  any: array(string().oneOf(BAND_NAMES).required()).min(1, 'choose at least one band').required(),
}).noUnknown()
export type HeadCountCriterion = InferType<typeof schema>

/** How many work at the organisation, in bands. A head count that was never told is unknown. */
export const headCount: CriterionKind<HeadCountCriterion, 'organisation'> = {
  name: 'Organisation’s head count',
  synonyms: ['company size', 'employees', 'headcount', 'number of employees', 'staff', 'firmographics'],
  inName: { before: '', after: 'people' },
  single: true,
  probe: { kind: 'head-count', any: ['1 to 9'] },
  named: namesNothing,
  of: 'organisation',
  group: 'their organisation',
  schema,
  blank: { kind: 'head-count', any: [] },
  whose: true,
  sentence: ({ any }) => [{ text: 'organisation has' }, ...chips(any, 'any', 'how many?'), { text: 'people' }],
  asks: () => ['headCount'],
  varies: steady,
  verdict: ({ any }, record) => (record.headCount === null ? 'unknown' : within(any, record.headCount) ? 'yes' : 'no'),
  evaluate({ any }, columns) {
    const { live, headCount } = columns
    const yes = any.map((band) => live.between(headCount.all, BANDS[band][0], BANDS[band][1] + 1)).reduce((a, b) => a.or(b))
    return { yes, unknown: live.andNot(live.between(headCount.all, 0, Number.POSITIVE_INFINITY)) }
  },
}

function within(bands: readonly Band[], count: number): boolean {
  return bands.some((band) => count >= BANDS[band][0] && count <= BANDS[band][1])
}

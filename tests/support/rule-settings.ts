import fc from 'fast-check'
import { CHANNELS } from '@/core/records/channels'
import { FIRST } from '@/core/screening/ranked'

const off = fc.boolean()
const some = (most: number) => fc.option(fc.integer({ min: 0, max: most }), { nil: undefined })
/** Without what is not said, as rules are stored. */
const said = <T extends object>(rule: T) => Object.fromEntries(Object.entries(rule).filter(([, value]) => value !== undefined))

/** Settings of some kinds of rules, generated. */
export const OF_SETTINGS = {
  'legal-basis': fc.record({
    off,
    accepted: fc.subarray(['consent', 'legitimate interests', 'contract'], { minLength: 1 }),
    unknown: fc.constantFrom('is held back', 'stays'),
  }),
  'message-requests': fc.record({
    off,
    most: fc.integer({ min: 0, max: 4 }),
    days: fc.integer({ min: 1, max: 60 }),
    answered: fc.constantFrom('is given back', 'stays used'),
    first: fc.constantFrom(...FIRST),
  }),
  'quiet-days': fc.record({
    off,
    weekends: fc.constantFrom('quiet', 'not quiet'),
    asked: fc.constantFrom('before each contact', 'at the release, too'),
  }),
  'one-channel': fc
    .record({
      off,
      order: fc.shuffledSubarray([...CHANNELS], { minLength: 1 }),
      mostEmail: some(6),
      mostPhone: some(6),
      mostPost: some(6),
      mostDirect: some(6),
      costEmail: some(90),
      costPhone: some(90),
      weeks: fc.option(fc.integer({ min: 1, max: 3 }), { nil: undefined }),
      callers: some(2),
      callsEach: fc.option(fc.integer({ min: 1, max: 2 }), { nil: undefined }),
      weekPost: some(2),
      wanted: some(4),
      budget: some(5),
      who: fc.constantFrom(...FIRST),
    })
    .map(({ order, ...rest }) =>
      said({ ...rest, first: order[0], second: order[1] ?? 'none', third: order[2] ?? 'none', fourth: order[3] ?? 'none' }),
    ),
}

import type { Line } from '../lists/line'

/**
 * The lines of a round that is for new people alone: those of its list, and one for each earlier round that drops whoever that one released.
 * Whoever was held back then is new still.
 */
export const onlyNewLines = (lines: readonly Line[], list: { id: number; name: string }, earlier: readonly number[]): Line[] => [
  ...lines,
  ...earlier.map(
    (which): Line => ({
      id: `only-new-${which}`,
      verb: 'drop',
      off: false,
      unknownAsYes: false,
      criterion: { kind: 'round', list, which, stood: 'clear' },
    }),
  ),
]

import type { Line } from '../lists/line'

const dropped = (id: string, list: { id: number; name: string }, which: number, stood: 'clear' | 'listed'): Line => ({
  id,
  verb: 'drop',
  off: false,
  unknownAsYes: false,
  criterion: { kind: 'round', list, which, stood },
})

/**
 * The lines of a round that is for new people alone: those of its list, and one for each earlier round that drops whoever that one released.
 * Whoever was held back then is new still.
 */
export const onlyNewLines = (lines: readonly Line[], list: { id: number; name: string }, earlier: readonly number[]): Line[] => [
  ...lines,
  ...earlier.map((which) => dropped(`only-new-${which}`, list, which, 'clear')),
]

/**
 * The lines of a supplement: those of its round, and one that drops whoever is in that round already, clear or held back, with its earlier
 * supplements. So nobody is in one round twice.
 */
export const supplementLines = (lines: readonly Line[], list: { id: number; name: string }, round: number): Line[] => [
  ...lines,
  dropped('supplement', list, round, 'listed'),
]

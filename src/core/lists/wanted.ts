import type { ListFigures } from './account'
import type { Line } from './line'

/** How many a list should hold, both ends included. */
export interface Wanted {
  least: number
  most: number
}

/** One thing that could be done towards the wanted size, and how many the list would then hold. */
export type Step = { do: 'without'; line: string; holds: number } | { do: 'limit'; most: number; holds: number }

/** How far a size is from what is wanted: 0 within it. */
export const farFrom = ({ least, most }: Wanted, size: number): number => (size < least ? least - size : size > most ? size - most : 0)

/**
 * What could be done towards a wanted size, what comes nearest first: taking away one line, by what the list would hold without
 * it, where that comes nearer than the list is now; and a limit where it holds too many. Ties go by the order of the lines.
 */
export function stepsTo(wanted: Wanted, lines: readonly Line[], figures: ListFigures): Step[] {
  const now = figures.totals.balance
  const far = farFrom(wanted, now)
  if (far === 0) return []
  const steps = figures.lines
    .flatMap((f, i): Step[] => (i === 0 || lines[i]?.off ? [] : [{ do: 'without', line: f.id, holds: f.without }]))
    .filter((step) => farFrom(wanted, step.holds) < far)
  if (now > wanted.most) steps.push({ do: 'limit', most: wanted.most, holds: wanted.most })
  return steps.sort((a, b) => farFrom(wanted, a.holds) - farFrom(wanted, b.holds))
}

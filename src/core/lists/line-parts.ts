import type { Line } from './line'
import { areasNamed, picksIn } from './named'

/** Returns the ids of the picked sets and areas that lines name. */
export const partsOf = (lines: readonly Line[]): Record<Part, number[]> => ({
  set: picksIn(lines).map((line) => line.set.id),
  area: areasNamed(lines).map(({ id }) => id),
})

export type Part = keyof typeof PARTS

/** What lines are made of besides criteria, each by a number: sets of picked records, and areas that were drawn for a line alone. */
export const PARTS = { set: { table: 'pick_set', maker: 'made_by' }, area: { table: 'area', maker: 'owner_id' } } as const

import type { Moment } from '@/core/criteria/kind'
import { type Glance, glanceAt } from '@/core/screening/glance'
import type { Sources } from '@/engine/sources'

/** What a row tells of some people, as things stand. */
export function glancesOf({ model }: Sources, numbers: number[], moment: Moment): Glance[] {
  const standing = { ...moment, exceptRounds: [], letThrough: [] }
  return numbers.map((n) => glanceAt(model.columns, n, standing))
}

import type { Bitset } from '@/core/columns/bitset'
import type { AreaShape } from '@/core/areas/shape'
import type { SubjectColumns } from '@/core/columns/subject-columns'
import { area } from '@/core/criteria/area'
import type { Moment } from '@/core/criteria/kind'

/** Those of a set that an area of this shape would have in it: what is drawn is asked as a line would ask it. */
export function inShape(set: Bitset, shape: AreaShape, columns: SubjectColumns, moment: Moment): Bitset {
  return area
    .evaluate({ kind: 'area', areas: [{ id: 0, name: 'what is drawn' }] }, columns, { ...moment, areas: new Map([[0, shape]]) })
    .yes.and(set)
}

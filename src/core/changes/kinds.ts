import { customIdOf } from '../clean/custom'
import { FIELD } from '../clean/standard-fields'
import type { Subject } from '../records/subject'

/** Kinds of changes that the product finds by itself in fields. What they ask and how long they stay useful is data of the team. */
export type FieldKind = 'left' | 'role' | 'organisation' | 'disagree' | 'detail' | 'customer' | 'hands' | 'roof' | 'for sale' | 'hiring'

/** Fields that are keys, or ways to reach somebody, or spelling: they have no timeline. */
export const NO_TIMELINE: ReadonlySet<string> = new Set([
  'outside id',
  'email',
  'phone',
  'direct',
  'post',
  'tags',
  'given name',
  'family name',
  'name',
  'position',
  'street',
  'postcode',
])

/** The kind a change of a field is of. Of a number, growing and shrinking are two things. */
export function kindOfEdge(
  of: Subject,
  field: string,
  { to, before, after }: { to: string; before: string | null; after: string | null },
): FieldKind {
  const id = customIdOf(field)
  if (of === 'person') {
    if (field === 'organisation') return to === '' ? 'left' : 'organisation'
    if (field === 'role') return 'role'
    return field === 'relation' && to === 'customer' ? 'customer' : 'detail'
  }
  if (of === 'organisation') return field === 'headCount' && Number(after) > Number(before) ? 'hiring' : 'detail'
  if (field === 'owner' || id === FIELD.transferDate) return 'hands'
  if (field === 'roof area') return 'roof'
  return id === FIELD.listed ? 'for sale' : 'detail'
}

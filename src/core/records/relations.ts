/** How somebody stands to the organisation that keeps the directory. */
export const RELATIONS = [
  'prospect',
  'in talks',
  'customer',
  'former customer',
  'our own people',
  'supplier',
  'partner',
  'competitor',
] as const

export type Relation = (typeof RELATIONS)[number]

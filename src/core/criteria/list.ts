import { type InferType, number, object, string } from 'yup'
import { Bitset } from '../columns/bitset'
import type { CriterionKind, Members, Moment } from './kind'

const schema = object({
  kind: string()
    .oneOf(['list'] as const)
    .required(),
  list: object({ id: number().integer().positive('choose a list').required(), name: string().required() }).required(),
  /** An edition by its number, or null for the latest saved one. */
  edition: number().integer().positive().nullable().default(null),
}).noUnknown()
export type ListCriterion = InferType<typeof schema>

/** The key under which the members of the list that is named are handed over. */
export const listKey = ({ list, edition }: Pick<ListCriterion, 'list' | 'edition'>): string => `list:${list.id}:${edition ?? 'latest'}`

/**
 * On another list, as its latest saved edition (or one edition of it) has it today. Not to be on it is known, even for
 * those that list left out as unknown, so this never answers unknown. Throws where the members were not handed over.
 */
export const list: CriterionKind<ListCriterion, 'any'> = {
  name: 'On another list',
  synonyms: ['in list', 'segment', 'audience', 'exclude list', 'suppress list', 'member of list'],
  inName: { before: 'on', after: '' },
  single: false,
  probe: null,
  named: (c, call) => ({ ...c, list: call(c.list, { what: 'list', edition: c.edition, of: null }) }),
  of: 'any',
  group: 'lists',
  schema,
  blank: { kind: 'list', list: { id: 0, name: '' }, edition: null },
  sentence: (c) => [
    { text: 'is on' },
    { chip: c.list.name || 'which list?', field: 'list' },
    ...(c.edition === null ? [] : [{ text: 'as of' }, { chip: `edition ${c.edition}`, field: 'edition' }]),
  ],
  asks: () => ['list'],
  varies: () => null,
  verdict: (c, record, moment) => (membersOf(c, moment).has(record.id) ? 'yes' : 'no'),
  evaluate: (c, columns, moment) => ({ yes: membersOf(c, moment).set.and(columns.live), unknown: new Bitset(columns.size) }),
}

/** Who is on the list that a criterion names. Throws where they were not handed over. */
export function membersOf(c: Pick<ListCriterion, 'list' | 'edition'>, moment: Moment): Members {
  const members = moment.members?.get(listKey(c))
  if (!members) throw new Error(`the members of “${c.list.name}” are not at hand`)
  return members
}

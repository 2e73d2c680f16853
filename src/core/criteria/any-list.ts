import { array, type InferType, number, object, string } from 'yup'
import { Bitset } from '../columns/bitset'
import { chips, type CriterionKind } from './kind'
import { membersOf } from './list'

const schema = object({
  kind: string()
    .oneOf(['any-list'] as const)
    .required(),
  lists: array(object({ id: number().integer().positive('choose a list').required(), name: string().required() }).required())
    .min(1, 'choose at least one list')
    .max(40)
    .required(),
}).noUnknown()
export type AnyListCriterion = InferType<typeof schema>

/** On any of some lists, each as its latest saved edition has it today. Never unknown. */
export const anyList: CriterionKind<AnyListCriterion, 'any'> = {
  name: 'On any of some lists',
  synonyms: ['in lists', 'any list', 'already listed', 'member of'],
  inName: { before: 'on', after: '' },
  single: false,
  probe: null,
  named: (c, call) => ({ ...c, lists: c.lists.map((list) => call(list, { what: 'list', edition: null, of: null })) }),
  of: 'any',
  group: 'lists',
  schema,
  blank: { kind: 'any-list', lists: [] },
  sentence: ({ lists }) => [
    { text: 'is on any of' },
    ...chips(
      lists.map((l) => l.name),
      'lists',
      'which lists?',
    ),
  ],
  asks: () => ['list'],
  varies: () => null,
  verdict: ({ lists }, record, moment) => (lists.some((list) => membersOf({ list, edition: null }, moment).has(record.id)) ? 'yes' : 'no'),
  evaluate: ({ lists }, columns, moment) => ({
    yes: lists.reduce((all, list) => all.or(membersOf({ list, edition: null }, moment).set), new Bitset(columns.size)).and(columns.live),
    unknown: new Bitset(columns.size),
  }),
}

import { array, type InferType, object, string } from 'yup'
import { fold } from '../clean/fold'
import { Bitset } from '../columns/bitset'
import { type CriterionKind, chips, steady, namesNothing } from './kind'

const schema = object({
  kind: string()
    .oneOf(['tag'] as const)
    .required(),
  any: array(string().trim().max(80).required()).min(1, 'name at least one tag').max(60).required(),
}).noUnknown()
export type TagCriterion = InferType<typeof schema>

/** Has any of some tags. To have none is known, so this never answers unknown. */
export const tag: CriterionKind<TagCriterion> = {
  name: 'Tag',
  synonyms: ['label', 'category', 'marker', 'flag'],
  inName: { before: 'tagged', after: '' },
  single: false,
  probe: null,
  named: namesNothing,
  of: 'person',
  group: 'who they are',
  schema,
  blank: { kind: 'tag', any: [] },
  sentence: ({ any }) => [{ text: 'is tagged' }, ...chips(any, 'any', 'which tag?')],
  asks: () => ['tags'],
  varies: steady,
  verdict: ({ any }, record) => (record.tags.some((own) => any.map(fold).includes(fold(own))) ? 'yes' : 'no'),
  evaluate({ any }, columns) {
    const asked = new Set(any.map(fold))
    const yes = [...columns.tags]
      .filter(([own]) => asked.has(fold(own)))
      .reduce((all, [, members]) => all.or(members), new Bitset(columns.size))
    return { yes: yes.and(columns.live), unknown: new Bitset(columns.size) }
  },
}

import { array, type InferType, number, object, string } from 'yup'
import { closePostcode, postcodeTest } from '../clean/postcode'
import { byWord, type CriterionKind, chips, steady } from './kind'

const schema = object({
  kind: string()
    .oneOf(['territory'] as const)
    .required(),
  territories: array(object({ id: number().integer().positive().required(), name: string().max(100).required() }).required())
    .min(1, 'choose a territory')
    .max(60)
    .required(),
  /** What their postcodes begin with, as they stand when it is asked; lines are kept without them. */
  postcodes: array(string().trim().max(12).required()).max(12_000).optional(),
}).noUnknown()
export type TerritoryCriterion = InferType<typeof schema>

/**
 * In any of some territories, by the beginning of their postcode: a person's own, else their organisation's. A missing postcode is unknown.
 * Throws where the postcodes of the territories were not handed over.
 */
export const territory: CriterionKind<TerritoryCriterion, 'any'> = {
  name: 'Territory',
  synonyms: ['patch', 'sales area', 'region of a colleague', 'whose area', 'district of a colleague'],
  inName: { before: 'in', after: '' },
  single: false,
  probe: null,
  named: (c, call) => ({ ...c, territories: c.territories.map((own) => call(own, { what: 'territory' })) }),
  of: 'any',
  group: 'where',
  schema,
  blank: { kind: 'territory', territories: [] },
  sentence: ({ territories }) => [
    { text: 'is in territory' },
    ...chips(
      territories.map(({ name }) => name),
      'territories',
      'which territory?',
    ),
  ],
  asks: () => ['postcode'],
  varies: steady,
  verdict(criterion, { postcode }) {
    const isIn = postcodeTest(atHand(criterion))
    return postcode === null ? 'unknown' : isIn(closePostcode(postcode)) ? 'yes' : 'no'
  },
  evaluate(criterion, columns) {
    const isIn = postcodeTest(atHand(criterion))
    return byWord(columns, columns.postcode, columns.postcode.derived(closePostcode).map(isIn))
  },
}

function atHand({ postcodes, territories }: TerritoryCriterion): readonly string[] {
  if (!postcodes) throw new Error(`the territory “${territories[0]?.name}” is not at hand`)
  return postcodes
}

import { type InferType, number, object, string } from 'yup'
import { circleTest } from '../areas/inside'
import { LONGEST } from '../areas/shape'
import { byPosition, positionOf } from './area'
import { type CriterionKind, steady, namesNothing } from './kind'
import { quantityText, type UnitOf, unitsOf } from '../text/units'

const schema = object({
  kind: string()
    .oneOf(['near'] as const)
    .required(),
  metres: number().min(1, 'say how many metres').max(LONGEST).required('say how many metres'),
  lat: number().min(-90).max(90).required(),
  lon: number().min(-180).max(180).required(),
  /** The unit the distance was told in; metres where it is not said. */
  unit: string()
    .oneOf(unitsOf('m') as UnitOf<'m'>[])
    .optional(),
  /** What lies there, where it has a name. */
  name: string().max(200).defined(),
})
  .noUnknown()
  .test('placed', 'say from where', (v) => v.lat !== 0 || v.lon !== 0)
export type NearCriterion = InferType<typeof schema>

/** Within so many metres of a point, by the position of the premises at their address. A missing position is unknown. */
export const near: CriterionKind<NearCriterion, 'any'> = {
  name: 'Distance from a point',
  synonyms: ['radius', 'within miles', 'within km', 'nearby', 'near', 'around'],
  inName: 'sentence',
  single: false,
  probe: { kind: 'near', metres: 1, lat: 1, lon: 1, name: '' },
  named: namesNothing,
  of: 'any',
  group: 'where',
  schema,
  blank: { kind: 'near', metres: 500, lat: 0, lon: 0, name: '' },
  sentence: ({ metres, unit, lat, lon, name }) => [
    { text: 'is within' },
    { chip: quantityText('m', metres, unit), field: 'metres' },
    { text: 'of' },
    { chip: name || (lat === 0 && lon === 0 ? 'which point?' : `${lat}, ${lon}`), field: 'lat' },
  ],
  asks: () => ['position'],
  varies: steady,
  verdict(c, record) {
    const at = positionOf(record)
    return at === null ? 'unknown' : circleTest(c).has(at.lon, at.lat) ? 'yes' : 'no'
  },
  evaluate: (c, columns) => byPosition(columns, circleTest(c)).all(),
}

import { array, type InferType, number, object, string } from 'yup'
import { type PositionTest, positionTest } from '../areas/inside'
import type { AreaShape } from '../areas/shape'
import { streetTest } from '../areas/streets'
import { houseAndStreet } from '../clean/street'
import type { Position } from '../clean/premises'
import type { SubjectColumns } from '../columns/subject-columns'
import type { SubjectRecord } from '../records/subject-record'
import { type Answer, type CriterionKind, chips, type Moment, steady } from './kind'

const schema = object({
  kind: string()
    .oneOf(['area'] as const)
    .required(),
  areas: array(object({ id: number().integer().positive().required(), name: string().max(200).required() }).required())
    .min(1, 'draw or choose an area')
    .max(60)
    .required(),
}).noUnknown()
export type AreaCriterion = InferType<typeof schema>

/**
 * In any of some areas: by the position of the premises at their address, in its polygons and circles; or by street and
 * house number. Where no part of an area says yes and one cannot be asked, since the position or the street is missing, it
 * is unknown. Throws where the shapes were not handed over.
 */
export const area: CriterionKind<AreaCriterion, 'any'> = {
  name: 'Area on the map',
  synonyms: ['polygon', 'radius', 'catchment', 'territory', 'geography', 'location', 'drawn area', 'map'],
  inName: { before: 'in', after: '' },
  single: false,
  probe: null,
  named: (c, call) => ({ ...c, areas: c.areas.map((area) => call(area, { what: 'area' })) }),
  of: 'any',
  group: 'where',
  schema,
  blank: { kind: 'area', areas: [] },
  sentence: ({ areas }) => [
    { text: 'is in' },
    ...chips(
      areas.map((a) => a.name),
      'areas',
      'which area?',
    ),
  ],
  asks: () => ['position', 'street'],
  varies: steady,
  verdict(c, record, moment) {
    const shapes = shapesOf(c, moment)
    const at = positionOf(record)
    const { house, street } = houseAndStreet(record.street)
    const said = shapes.map((shape): boolean | null => {
      const test = streetTest(shape.streets)
      const byPosition = drawn(shape) ? at && positionTest([shape]).has(at.lon, at.lat) : false
      const byStreet = shape.streets.length === 0 ? false : street === null ? null : test.holds(test.asked(street), house)
      return byPosition || byStreet || (byPosition === null || byStreet === null ? null : false)
    })
    return said.includes(true) ? 'yes' : said.includes(null) ? 'unknown' : 'no'
  },
  evaluate(c, columns, moment) {
    const shapes = shapesOf(c, moment)
    const streets = shapes.flatMap((shape) => shape.streets)
    const placed = shapes.some(drawn) ? byPosition(columns, positionTest(shapes)) : null
    if (placed && streets.length === 0) return placed.all()
    const test = streetTest(streets)
    const asked = streets.length > 0 ? columns.street.words.map(test.asked) : null
    return columns.live.split((n) => {
      const byPosition = placed === null ? 0 : placed.at(n)
      if (byPosition === 1) return 1
      if (!asked) return byPosition
      const code = columns.street.codeAt(n)
      if (code < 0) return 2
      if (asked[code].length > 0) {
        const house = columns.house.at(n)
        const said = test.holds(asked[code], house < 0 ? null : house)
        if (said) return 1
        if (said === null) return 2
      }
      return byPosition
    })
  },
}

const drawn = ({ polygons, circles }: AreaShape) => polygons.length + circles.length > 0

function shapesOf({ areas }: AreaCriterion, moment: Moment): AreaShape[] {
  return areas.map(({ id, name }) => {
    const shape = moment.areas?.get(id)
    if (!shape) throw new Error(`the area “${name}” is not at hand`)
    return shape
  })
}

/** The position of a record: its own, or that of the premises at its address. */
export function positionOf(record: SubjectRecord): Position | null {
  const own = record as SubjectRecord & { position?: Position | null; at?: { position: Position | null } | null }
  return own.position ?? own.at?.position ?? null
}

/** What positions answer of records: of one (1 yes, 0 no, 2 not known), or of all that are live. */
export interface ByPosition {
  at(n: number): number
  all(): Answer
}

/** Asks of every premises whether it lies in something, and gives what that answers of records of the columns. */
export function byPosition(columns: SubjectColumns, test: PositionTest): ByPosition {
  const { premises, people, organisations } = columns.directory
  const said = new Uint8Array(premises.size + 1).fill(2)
  const own = said.subarray(1)
  for (let n = 0; n < own.length; n++) if (premises.placed(n) && premises.live.has(n)) own[n] = 0
  test.mark(premises, own)
  if (columns === premises) return { at: (n) => own[n], all: () => premises.live.split((n) => own[n]) }
  const link = columns === people ? people.at : organisations.at
  return { at: (n) => said[link.at(n) + 1], all: () => columns.live.splitByCode(link.all, said) }
}

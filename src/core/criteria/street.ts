import { array, mixed, type InferType, object, string } from 'yup'
import { type StreetRange, streetText, validShape } from '../areas/shape'
import { streetTest } from '../areas/streets'
import { houseAndStreet } from '../clean/street'
import { type CriterionKind, chips, steady, namesNothing } from './kind'

const schema = object({
  kind: string()
    .oneOf(['street'] as const)
    .required(),
  streets: array(
    mixed<StreetRange>()
      .test('street', 'is no street with house numbers', (value, context) => {
        try {
          return validShape({ streets: [value] }).streets.length === 1
        } catch (error) {
          return context.createError({ message: (error as Error).message })
        }
      })
      .required(),
  )
    .min(1, 'name at least one street')
    .max(200)
    .required(),
}).noUnknown()
export type StreetCriterion = InferType<typeof schema>

/**
 * On any of some streets, at all or some of their house numbers. Streets are compared in their comparable form. Without a
 * street it is unknown; without a house number too, where numbers are asked about on that street.
 */
export const street: CriterionKind<StreetCriterion, 'any'> = {
  name: 'Street and house numbers',
  synonyms: ['address', 'road', 'house number', 'walk sequence', 'even side', 'odd side'],
  inName: { before: 'on', after: '' },
  single: false,
  probe: { kind: 'street', streets: [{ street: '?', from: null, to: null, side: 'both' }] },
  named: namesNothing,
  of: 'any',
  group: 'where',
  schema,
  blank: { kind: 'street', streets: [] },
  sentence: ({ streets }) => [{ text: 'is on' }, ...chips(streets.map(streetText), 'streets', 'which street?')],
  asks: () => ['street'],
  varies: steady,
  verdict({ streets }, record) {
    const { house, street: name } = houseAndStreet(record.street)
    if (name === null) return 'unknown'
    const test = streetTest(streets)
    const said = test.holds(test.asked(name), house)
    return said === null ? 'unknown' : said ? 'yes' : 'no'
  },
  evaluate({ streets }, columns) {
    const test = streetTest(streets)
    const asked = columns.street.words.map(test.asked)
    return columns.live.split((n) => {
      const code = columns.street.codeAt(n)
      if (code < 0) return 2
      if (asked[code].length === 0) return 0
      const house = columns.house.at(n)
      const said = test.holds(asked[code], house < 0 ? null : house)
      return said === null ? 2 : said ? 1 : 0
    })
  },
}

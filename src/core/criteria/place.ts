import { array, type InferType, object, string } from 'yup'
import { fold } from '../clean/fold'
import { closePostcode, postcodeTest } from '../clean/postcode'
import { byWord, type CriterionKind, chips, steady, namesNothing } from './kind'

const schema = object({
  kind: string()
    .oneOf(['place'] as const)
    .required(),
  towns: array(string().trim().max(80).required()).max(60).default([]),
  postcodes: array(string().trim().max(12).required()).max(200).default([]),
})
  .noUnknown()
  .test('some', 'name a town or a postcode', (v) => v.towns.length + v.postcodes.length > 0)
export type PlaceCriterion = InferType<typeof schema>

/**
 * Town, or the beginning of a postcode. A person's own address counts, else their organisation's. Either kind of
 * place may say yes; where none does and one that was asked about is missing, it is unknown.
 */
export const place: CriterionKind<PlaceCriterion, 'any'> = {
  name: 'Town or postcode',
  synonyms: ['city', 'zip', 'zip code', 'postal code', 'location', 'geography', 'municipality'],
  inName: { before: 'in', after: '' },
  single: false,
  probe: { kind: 'place', towns: ['?'], postcodes: [] },
  named: namesNothing,
  of: 'any',
  group: 'where',
  schema,
  blank: { kind: 'place', towns: [], postcodes: [] },
  sentence: ({ towns, postcodes }) => [
    { text: 'is in' },
    ...chips([...towns, ...postcodes.map((p) => `postcode ${p}…`)], 'towns', 'which town?'),
  ],
  asks: ({ towns, postcodes }) => [
    ...(towns.length > 0 ? (['town'] as const) : []),
    ...(postcodes.length > 0 ? (['postcode'] as const) : []),
  ],
  varies: steady,
  verdict(criterion, record) {
    const { isTown, isPostcode } = matchers(criterion)
    if ((record.town !== null && isTown(record.town)) || (record.postcode !== null && isPostcode(record.postcode))) return 'yes'
    const missing = (criterion.towns.length > 0 && record.town === null) || (criterion.postcodes.length > 0 && record.postcode === null)
    return missing ? 'unknown' : 'no'
  },
  evaluate(criterion, columns) {
    const { isFoldedTown, isClosePostcode } = matchers(criterion)
    const town = columns.town.derived(fold).map(isFoldedTown)
    const postcode = columns.postcode.derived(closePostcode).map(isClosePostcode)
    if (criterion.postcodes.length === 0) return byWord(columns, columns.town, town)
    if (criterion.towns.length === 0) return byWord(columns, columns.postcode, postcode)
    const [asksTown, asksPostcode] = [criterion.towns.length > 0, criterion.postcodes.length > 0]
    return columns.live.split((n) => {
      const t = columns.town.codeAt(n)
      const p = columns.postcode.codeAt(n)
      if ((t >= 0 && town[t]) || (p >= 0 && postcode[p])) return 1
      return (asksTown && t < 0) || (asksPostcode && p < 0) ? 2 : 0
    })
  },
}

function matchers({ towns, postcodes }: PlaceCriterion) {
  const names = new Set(towns.map(fold))
  const isFoldedTown = (town: string) => names.has(town)
  const isClosePostcode = postcodeTest(postcodes)
  return {
    isFoldedTown,
    isClosePostcode,
    isTown: (town: string) => isFoldedTown(fold(town)),
    isPostcode: (postcode: string) => isClosePostcode(closePostcode(postcode)),
  }
}

import fc from 'fast-check'
import geodesic from 'geographiclib-geodesic'
import { describe, expect, test } from 'vitest'
import { cleanOwnerKind, cleanPosition, cleanWhole, metresApart } from '@/core/clean/premises'
import { premisesRow } from '@/core/clean/premises-row'
import { mappingLacks } from '@/core/match/columns'
import { matchPremises, type PremisesKeys } from '@/core/match/same-premises'

test.each([
  ['54.2', '-3,5', { lat: 54.2, lon: -3.5 }],
  ['', ' ', null],
  ['121', '30', { wrong: 'the latitude 121 is more than 90 degrees: the two may have changed places' }],
  ['121', '130', { wrong: 'the latitude 121 is more than 90 degrees' }],
  ['12', '190', { wrong: 'the longitude 190 is more than 180 degrees' }],
  ['north', '3', { wrong: '“north, 3” is no latitude and longitude in degrees' }],
])('%s and %s as a position', (lat, lon, is) => expect(cleanPosition(lat, lon)).toEqual(is))

test('areas, years and kinds of owner', () => {
  expect([
    cleanWhole('1,250 m²', 9999),
    cleanWhole('12.6', 99),
    cleanWhole('', 9),
    cleanWhole('large', 9),
    cleanWhole('1850', 1000),
  ]).toEqual([1250, 13, null, undefined, undefined])
  expect([cleanOwnerKind('Council'), cleanOwnerKind('INDIVIDUAL'), cleanOwnerKind(''), cleanOwnerKind('elf')]).toEqual([
    'public body',
    'individual',
    null,
    undefined,
  ])
})

describe('metres between two positions', () => {
  test('within a thousandth of the geodesic to 475 km, and within 0.6 % beyond', () => {
    // The reference: C. F. F. Karney's algorithms for geodesics on WGS 84 (J. Geodesy 87, 2013), as GeographicLib has them.
    const near = fc.record({
      lat: fc.double({ min: -75, max: 75, noNaN: true }),
      lon: fc.double({ min: -175, max: 175, noNaN: true }),
      north: fc.double({ min: -3, max: 3, noNaN: true }),
      east: fc.double({ min: -3, max: 3, noNaN: true }),
    })
    const apart = (a: { lat: number; lon: number }, b: { lat: number; lon: number }) =>
      geodesic.Geodesic.WGS84.Inverse(a.lat, a.lon, b.lat, b.lon).s12 as number
    fc.assert(
      fc.property(near, ({ lat, lon, north, east }) => {
        const [a, b] = [
          { lat, lon },
          { lat: lat + north, lon: lon + east },
        ]
        const exact = apart(a, b)
        expect(Math.abs(metresApart(a, b) - exact)).toBeLessThanOrEqual(exact * (exact < 470_000 ? 0.001 : 0.006) + 0.01)
      }),
      { numRuns: 500 },
    )
    expect(metresApart({ lat: 0, lon: 0 }, { lat: 0, lon: 180 })).toBeCloseTo(6_371_008.8 * Math.PI, 3)
  })
  test('the same both ways, never more than half around, nothing for one place', () => {
    const at = fc.record({ lat: fc.double({ min: -90, max: 90, noNaN: true }), lon: fc.double({ min: -180, max: 180, noNaN: true }) })
    fc.assert(
      fc.property(at, at, (a, b) => {
        expect(metresApart(a, b)).toBeCloseTo(metresApart(b, a), 3)
        expect(metresApart(a, b)).toBeLessThanOrEqual(6_371_008.8 * Math.PI + 1e-3)
        expect(metresApart(a, a)).toBe(0)
      }),
    )
  })
})

describe('a row of premises', () => {
  const MAPPING = ['name', 'street', 'town', 'latitude', 'longitude', 'roofArea', 'ownerKind']
  test('is named by its street where it has no name; what cannot be is left out and told', () => {
    expect(premisesRow(['', '4 Mill Lane', 'Thornmouth', '', '', '900', 'company'], MAPPING)).toMatchObject({
      name: '4 Mill Lane',
      named: false,
      position: null,
      roofArea: 900,
      ownerKind: 'company',
      doubts: [],
    })
    expect(premisesRow(['Otter Barn', '', '', '55.2', '1.3', 'vast', 'elf'], MAPPING)).toMatchObject({
      name: 'Otter Barn',
      named: true,
      position: { lat: 55.2, lon: 1.3 },
      roofArea: null,
      doubts: ['“vast” is no area in square metres and was left out', '“elf” is no kind of owner we know and was left out'],
    })
    expect(premisesRow(['Otter Barn', '', '', '155', '1.3', '', ''], MAPPING)).toEqual({
      refused:
        'it says neither a whole address nor where it lies; the latitude 155 is more than 90 degrees: the two may have changed places; the position was left out',
    })
  })
  test('needs an address or both coordinates', () => {
    expect(mappingLacks('premises', ['name'])).toMatch(/street, or the latitude/)
    expect(mappingLacks('premises', ['latitude'])).toMatch(/both of them/)
    expect(mappingLacks('premises', ['latitude', 'longitude'])).toBeNull()
  })
})

describe('which premises a row is', () => {
  const keys = (k: Partial<PremisesKeys>): PremisesKeys => ({
    outsideId: null,
    name: 'Otter Barn',
    address: '4 mill lane|pw1',
    position: null,
    ...k,
  })
  const at = { lat: 55.2, lon: 1.3 }
  test.each<[string, PremisesKeys, PremisesKeys[], object]>([
    ['its outside id', keys({ outsideId: 'P1', name: 'Other' }), [keys({ outsideId: 'P1' })], { is: 'same', id: 1, by: 'outside id' }],
    ['address and name', keys({ name: 'OTTER  barn' }), [keys({})], { is: 'same', id: 1, by: 'address and name' }],
    ['an address without a name', keys({ name: null }), [keys({})], { is: 'same', id: 1, by: 'address' }],
    [
      'a name nearby',
      keys({ address: null, position: at }),
      [keys({ address: null, position: { lat: 55.2003, lon: 1.3 } })],
      { is: 'same', id: 1, by: 'name and position' },
    ],
    [
      'a name far away',
      keys({ address: null, position: at }),
      [keys({ address: null, position: { lat: 55.21, lon: 1.3 } })],
      { is: 'new' },
    ],
    ['an address under another name', keys({ name: 'Otter Hall' }), [keys({})], { is: 'in doubt', ids: [1] }],
    ['two of one address', keys({ name: null }), [keys({}), keys({ name: 'Otter Hall' })], { is: 'in doubt', ids: [1, 2] }],
    ['another outside id', keys({ outsideId: 'P2' }), [keys({ outsideId: 'P1' })], { is: 'in doubt', ids: [1] }],
    ['nothing', keys({}), [], { is: 'new' }],
  ])('%s', (_, row, known, is) =>
    expect(
      matchPremises(
        row,
        known.map((p, i) => ({ ...p, id: i + 1 })),
      ),
    ).toMatchObject(is),
  )
})

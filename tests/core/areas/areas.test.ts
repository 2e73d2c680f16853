import { booleanPointInPolygon } from '@turf/boolean-point-in-polygon'
import { point, polygon as turfPolygon } from '@turf/helpers'
import { kinks } from '@turf/kinks'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { crossing } from '@/core/areas/crossing'
import { PolygonTest, positionTest } from '@/core/areas/inside'
import { type AreaShape, MOST_CORNERS, type Polygon, type Ring, streetText, validShape } from '@/core/areas/shape'
import { houseAndStreet } from '@/core/clean/street'

const coordinate = (least: number, most: number) => fc.double({ min: least, max: most, noNaN: true })

/** A star around a point: it never crosses itself, and may have bays. */
const star = (lon: number, lat: number, least: number, most: number): fc.Arbitrary<Ring> =>
  fc
    .array(coordinate(least, most), { minLength: 3, maxLength: 40 })
    .map((radii) =>
      radii.map((r, i): [number, number] => [
        lon + r * Math.cos((2 * Math.PI * i) / radii.length),
        lat + r * Math.sin((2 * Math.PI * i) / radii.length),
      ]),
    )

const closed = (ring: Ring) => [...ring, ring[0]]

test('inside a polygon with a hole: as the reference library has it', () => {
  // The reference: @turf/boolean-point-in-polygon, which is J. Flatten's port of Hao and others, Symmetry 10(10), 2018.
  fc.assert(
    fc.property(
      star(1.5, 55.3, 0.05, 0.3),
      star(1.5, 55.3, 0.001, 0.02),
      fc.array(fc.tuple(coordinate(1.1, 1.9), coordinate(54.9, 55.7)), { minLength: 50, maxLength: 50 }),
      (outer, hole, points) => {
        const rings: Polygon = [outer, hole]
        const ours = new PolygonTest(rings)
        const theirs = turfPolygon(rings.map(closed))
        for (const at of points) expect(ours.has(...at)).toBe(booleanPointInPolygon(point(at), theirs))
        for (let i = 0; i < 200; i++) {
          const at: [number, number] = [1.5 + 0.03 * Math.cos(i) * (i / 200), 55.3 + 0.03 * Math.sin(i) * (i / 200)]
          expect(ours.has(...at)).toBe(booleanPointInPolygon(point(at), theirs))
        }
      },
    ),
    { numRuns: 120 },
  )
})

test('many positions at once are marked as each is by itself; what was yes or unknown before stays', () => {
  const shape = fc.record({
    polygons: fc.array(fc.tuple(star(1.5, 55.3, 0.05, 0.3), star(1.5, 55.3, 0.001, 0.02)), { maxLength: 2 }),
    circles: fc.array(fc.record({ lat: coordinate(55.1, 55.5), lon: coordinate(1.3, 1.7), metres: coordinate(1, 30_000) }), {
      maxLength: 2,
    }),
    streets: fc.constant<AreaShape['streets']>([]),
  })
  fc.assert(
    fc.property(
      fc.array(shape, { minLength: 1, maxLength: 2 }),
      fc.array(fc.tuple(coordinate(1.1, 1.9), coordinate(54.9, 55.7), fc.constantFrom(0, 1, 2)), { minLength: 80, maxLength: 80 }),
      (shapes, points) => {
        const test = positionTest(shapes)
        const said = Uint8Array.from(points, ([, , before]) => before)
        test.mark({ lon: Float64Array.from(points, ([lon]) => lon), lat: Float64Array.from(points, ([, lat]) => lat) }, said)
        expect(Array.from(said)).toEqual(points.map(([lon, lat, before]) => (before === 0 && test.has(lon, lat) ? 1 : before)))
      },
    ),
    { numRuns: 200 },
  )
})

test('a line of no height and a tiny polygon hold what they hold', () => {
  const tiny = new PolygonTest([
    [
      [0, 0],
      [1e-9, 0],
      [0, 1e-9],
    ],
  ])
  expect([tiny.has(2e-10, 2e-10), tiny.has(9e-10, 9e-10), tiny.has(1, 1)]).toEqual([true, false, false])
  expect(
    new PolygonTest([
      [
        [0, 0],
        [1, 0],
        [2, 0],
      ],
    ]).has(0.5, 0.5),
  ).toBe(false)
})

test('a ring that crosses itself is told from one that does not, as the reference library has it', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 9999 }), fc.integer({ min: 0, max: 9999 })), { minLength: 4, maxLength: 14 }),
      (ring) => {
        const clean = ring.filter((corner, i) => ring.findIndex((o) => o[0] === corner[0] || o[1] === corner[1]) === i) as Ring
        fc.pre(clean.length >= 4)
        expect(crossing(clean) !== null).toBe(kinks(turfPolygon([closed(clean)])).features.length > 0)
      },
    ),
    { numRuns: 300 },
  )
  fc.assert(
    fc.property(star(0, 0, 0.1, 1), (ring) => {
      expect(crossing(ring)).toBeNull()
    }),
  )
})

describe('a shape that cannot be is refused, and the sentence says what and where', () => {
  const ring = (...corners: number[][]): AreaShape => ({ polygons: [[corners as Ring]], circles: [], streets: [] })
  test.each<[string, unknown, RegExp]>([
    ['nothing', {}, /covers nothing yet/],
    ['two corners', ring([0, 0], [1, 1], [0, 0]), /has 2 corners; it takes three/],
    ['a bow tie', ring([0, 0], [1, 1], [1, 0], [0, 1]), /crosses itself: the side after corner 1 meets the side after corner 3/],
    ['back along a side', ring([0, 0], [2, 0], [1, 0], [1, 1]), /crosses itself/],
    ['the date line', ring([179, 0], [-179, 0], [179, 1]), /crosses the date line/],
    ['off the earth', ring([0, 0], [0, 91], [1, 1]), /Corner 2 of polygon 1 is not on earth/],
    ['no number', ring([0, 0], [0, Number.NaN], [1, 1]), /not a latitude and longitude/],
    ['a circle of no size', { circles: [{ lat: 1, lon: 1, metres: 0 }] }, /Circle 1 needs a length/],
    ['numbers the wrong way round', { streets: [{ street: 'Mill Lane', from: 9, to: 3, side: 'both' }] }, /9 comes after 3/],
    [
      'too many corners',
      ring(...Array.from({ length: MOST_CORNERS + 1 }, (_, i) => [Math.cos(i / MOST_CORNERS), Math.sin(i / MOST_CORNERS)])),
      /20,001 corners; 20,000 are the most/,
    ],
    ['no polygons', { polygons: 'x' }, /cannot be read/],
  ])('%s', (_name, shape, told) => expect(() => validShape(shape)).toThrow(told))
  test('ten thousand corners are taken, and the last that repeats the first is dropped', () => {
    const corners = Array.from({ length: 10_000 }, (_, i) => [Math.cos((i * 2 * Math.PI) / 10_000), Math.sin((i * 2 * Math.PI) / 10_000)])
    const shape = validShape(ring(...corners, corners[0]))
    expect(shape.polygons[0][0]).toHaveLength(10_000)
    const inside = new PolygonTest(shape.polygons[0])
    expect([inside.has(0.7, 0.7), inside.has(0.72, 0.72)]).toEqual([true, false])
  })
})

test.each([
  ['12 Mill Lane', 12, 'Mill Lane'],
  ['12a, Mill Lane', 12, 'Mill Lane'],
  ['Mill Lane', null, 'Mill Lane'],
  ['1st Avenue', null, '1st Avenue'],
  ['7', null, '7'],
  ['1234567 Road', null, '1234567 Road'],
  [null, null, null],
])('%s is house %s on %s', (line, house, street) => expect(houseAndStreet(line)).toEqual({ house, street }))

test('streets in words', () => {
  expect([
    streetText({ street: 'Mill Lane', from: null, to: null, side: 'both' }),
    streetText({ street: 'Mill Lane', from: 1, to: 49, side: 'odd' }),
    streetText({ street: 'Mill Lane', from: 10, to: null, side: 'both' }),
    streetText({ street: 'Mill Lane', from: 2, to: 8, side: 'both' }),
  ]).toEqual(['Mill Lane', 'Mill Lane, odd numbers 1 to 49', 'Mill Lane, numbers from 10', 'Mill Lane, 2 to 8'])
})

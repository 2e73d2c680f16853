import { crossing } from './crossing'
import { countText } from '../text/written'

/** A ring of corners, each longitude and latitude in degrees on WGS 84; the last joins the first and need not repeat it. */
export type Ring = [lon: number, lat: number][]
/** An outer ring and its holes. */
export type Polygon = Ring[]

export interface Circle {
  lat: number
  lon: number
  /** Metres. */
  metres: number
}

/** Which houses of a street: from and to, both included, either open; all of them, or one side. */
export interface StreetRange {
  street: string
  from: number | null
  to: number | null
  side: 'both' | 'odd' | 'even'
}

/** What an area covers: whatever is in any of its parts. Shapes are never changed; a redrawn area is another one. */
export interface AreaShape {
  polygons: Polygon[]
  circles: Circle[]
  streets: StreetRange[]
}

export const EMPTY_SHAPE: AreaShape = { polygons: [], circles: [], streets: [] }

/** More corners than this in one area are refused. */
export const MOST_CORNERS = 20_000
/** The longest radius of a circle, in metres. */
export const LONGEST = 500_000

/** What is wrong with a shape, in a sentence. */
export class WrongShape extends Error {}

/**
 * Checks a shape that came from outside, and closes nothing twice: a last corner that repeats the first is dropped. Throws
 * WrongShape naming what is wrong: no part at all, a corner off the earth, a polygon that crosses itself or the date
 * line, more than MOST_CORNERS corners, a circle of no size.
 */
export function validShape(raw: unknown): AreaShape {
  const given = (raw ?? {}) as Partial<AreaShape>
  const list = <T>(value: T[] | undefined, what: string): T[] => {
    if (value === undefined) return []
    if (!Array.isArray(value)) throw new WrongShape(`The ${what} of the area cannot be read.`)
    return value
  }
  const polygons = list(given.polygons, 'polygons').map((rings, i) => {
    if (!Array.isArray(rings) || rings.length === 0) throw new WrongShape(`Polygon ${i + 1} has no corners.`)
    return rings.map((ring, r) => validRing(ring, `${r === 0 ? 'Polygon' : `Hole ${r} of polygon`} ${i + 1}`))
  })
  const corners = polygons.flat().reduce((sum, ring) => sum + ring.length, 0)
  if (corners > MOST_CORNERS)
    throw new WrongShape(`The area has ${countText(corners)} corners; ${countText(MOST_CORNERS)} are the most. Draw it with fewer.`)
  const circles = list(given.circles, 'circles').map((c, i) => {
    const { lat, lon, metres } = c ?? {}
    onEarth([lon, lat], `The centre of circle ${i + 1}`)
    if (!Number.isFinite(metres) || metres <= 0 || metres > LONGEST)
      throw new WrongShape(`Circle ${i + 1} needs a length of more than 0 and at most ${LONGEST / 1000} km.`)
    return { lat, lon, metres }
  })
  const streets = list(given.streets, 'streets').map((s, i) => validStreet(s, i))
  if (polygons.length + circles.length + streets.length === 0)
    throw new WrongShape('The area covers nothing yet: draw a polygon or a circle, or name a street.')
  if (streets.length > 200 || circles.length > 200 || polygons.length > 500)
    throw new WrongShape('The area has too many parts: 500 polygons, 200 circles and 200 streets are the most.')
  return { polygons, circles, streets }
}

function validRing(raw: unknown, name: string): Ring {
  if (!Array.isArray(raw)) throw new WrongShape(`${name} has no corners.`)
  if (raw.length > MOST_CORNERS * 2)
    throw new WrongShape(`${name} has ${countText(raw.length)} corners; ${countText(MOST_CORNERS)} are the most.`)
  const ring = raw.map((corner, i): [number, number] => {
    if (!Array.isArray(corner)) throw new WrongShape(`Corner ${i + 1} of ${name.toLowerCase()} is not a latitude and longitude.`)
    onEarth(corner as number[], `Corner ${i + 1} of ${name.toLowerCase()}`)
    return [corner[0], corner[1]]
  })
  const [first, last] = [ring[0], ring.at(-1)]
  if (ring.length > 1 && first[0] === last?.[0] && first[1] === last[1]) ring.pop()
  if (ring.length < 3) throw new WrongShape(`${name} has ${ring.length} ${ring.length === 1 ? 'corner' : 'corners'}; it takes three.`)
  if (ring.some(([lon], i) => Math.abs(lon - ring[(i + 1) % ring.length][0]) > 180))
    throw new WrongShape(`${name} crosses the date line. Draw one on either side of it.`)
  const meets = crossing(ring)
  if (meets)
    throw new WrongShape(
      `${name} crosses itself: the side after corner ${meets[0] + 1} meets the side after corner ${meets[1] + 1}. Move one of these corners.`,
    )
  return ring
}

function onEarth([lon, lat]: (number | undefined)[], name: string): void {
  if (typeof lon !== 'number' || typeof lat !== 'number' || !Number.isFinite(lon) || !Number.isFinite(lat))
    throw new WrongShape(`${name} is not a latitude and longitude in degrees.`)
  if (Math.abs(lon) > 180 || Math.abs(lat) > 90) throw new WrongShape(`${name} is not on earth: latitude ${lat}, longitude ${lon}.`)
}

function validStreet(raw: StreetRange, i: number): StreetRange {
  const street = typeof raw?.street === 'string' ? raw.street.trim().replace(/\s+/g, ' ') : ''
  if (street === '' || street.length > 120) throw new WrongShape(`Street ${i + 1} needs a name.`)
  const number = (value: unknown, what: string): number | null => {
    if (value === null || value === undefined || value === '') return null
    if (!Number.isInteger(value) || (value as number) < 0 || (value as number) > 99_999)
      throw new WrongShape(`${street}: ${what} is no house number.`)
    return value as number
  }
  const [from, to] = [number(raw.from, 'from'), number(raw.to, 'to')]
  if (from !== null && to !== null && from > to) throw new WrongShape(`${street}: ${from} comes after ${to}. Turn them round.`)
  const side = raw.side ?? 'both'
  if (side !== 'both' && side !== 'odd' && side !== 'even') throw new WrongShape(`${street}: a side is odd, even or both.`)
  return { street, from, to, side }
}

/** Which houses of a street, in words: *Mill Lane, odd numbers 1 to 49*. */
export function streetText({ street, from, to, side }: StreetRange): string {
  const numbers =
    from === null && to === null
      ? ''
      : from !== null && to !== null
        ? ` ${from} to ${to}`
        : from !== null
          ? ` from ${from}`
          : ` up to ${to}`
  return side === 'both'
    ? numbers === ''
      ? street
      : `${street},${from !== null && to !== null ? '' : ' numbers'}${numbers}`
    : `${street}, ${side} numbers${numbers}`
}

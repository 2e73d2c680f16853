import { fold } from './fold'
import { squeeze } from './name'

/** Whose premises are. */
export const OWNER_KINDS = ['individual', 'company', 'trust', 'public body'] as const
export type OwnerKind = (typeof OWNER_KINDS)[number]

/** Degrees on WGS 84, north and east positive. */
export interface Position {
  lat: number
  lon: number
}

/** A position from two cells; null where both are empty; a sentence where they are no place on earth. */
export function cleanPosition(lat: string, lon: string): Position | null | { wrong: string } {
  if (squeeze(lat) === '' && squeeze(lon) === '') return null
  const [north, east] = [degrees(lat), degrees(lon)]
  if (north === null || east === null) return { wrong: `“${squeeze(lat)}, ${squeeze(lon)}” is no latitude and longitude in degrees` }
  if (Math.abs(north) > 90)
    return {
      wrong:
        Math.abs(east) <= 90 && Math.abs(north) <= 180
          ? `the latitude ${north} is more than 90 degrees: the two may have changed places`
          : `the latitude ${north} is more than 90 degrees`,
    }
  if (Math.abs(east) > 180) return { wrong: `the longitude ${east} is more than 180 degrees` }
  return { lat: north, lon: east }
}

function degrees(text: string): number | null {
  const plain = squeeze(text).replace(',', '.')
  return /^[-+]?\d{1,3}(\.\d+)?$/.test(plain) ? Number(plain) : null
}

/** A whole number of square metres or a year; null where empty, `undefined` where it is none. */
export function cleanWhole(raw: string, most: number): number | null | undefined {
  const text = squeeze(raw)
    .replace(/[\s,'](?=\d{3}(\D|$))/g, '')
    .replace(/\s*(m2|m²|sq\.? ?m)$/i, '')
  if (text === '') return null
  const value = /^\d{1,9}(\.\d+)?$/.test(text) ? Math.round(Number(text)) : Number.NaN
  return Number.isFinite(value) && value <= most ? value : undefined
}

/** An owner's kind by its word; null where empty, `undefined` where it is none we know. */
export function cleanOwnerKind(raw: string): OwnerKind | null | undefined {
  const said = fold(raw)
  if (said === '') return null
  return OWNER_KINDS.find((kind) => fold(kind) === said) ?? OWNER_WORDS[said]
}

const OWNER_WORDS: Record<string, OwnerKind> = {
  person: 'individual',
  private: 'individual',
  'private individual': 'individual',
  business: 'company',
  corporate: 'company',
  'limited company': 'company',
  council: 'public body',
  public: 'public body',
  government: 'public body',
  charity: 'trust',
}

/** Mean radius of the earth in metres. Source: IUGG, R1 of GRS 80 (H. Moritz, Geodetic Reference System 1980). */
const RADIUS = 6_371_008.8

/** The farthest that the formula for short distances is good for, in metres. */
const SHORT = 475_000

/**
 * Metres between two positions. To 475 km by the method of 47 CFR 73.208(c), which takes a degree for as long as it is on
 * the ellipsoid of Clarke 1866 at the latitude half-way; farther along the great circle, by the haversine formula
 * (R. W. Sinnott, Sky and Telescope 68, 1984), which is within 0.6 % of the ellipsoid.
 */
export function metresApart(a: Position, b: Position): number {
  const rad = Math.PI / 180
  const middle = ((a.lat + b.lat) / 2) * rad
  const north = (111_132.09 - 566.05 * Math.cos(2 * middle) + 1.2 * Math.cos(4 * middle)) * (b.lat - a.lat)
  const turn = Math.abs(b.lon - a.lon)
  const east = (111_415.13 * Math.cos(middle) - 94.55 * Math.cos(3 * middle) + 0.12 * Math.cos(5 * middle)) * Math.min(turn, 360 - turn)
  const short = Math.hypot(north, east)
  if (short <= SHORT && Math.abs(middle) < 80 * rad) return short
  const h =
    Math.sin(((b.lat - a.lat) * rad) / 2) ** 2 + Math.cos(a.lat * rad) * Math.cos(b.lat * rad) * Math.sin(((b.lon - a.lon) * rad) / 2) ** 2
  return 2 * RADIUS * Math.asin(Math.min(1, Math.sqrt(h)))
}

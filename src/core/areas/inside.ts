import { metresApart } from '../clean/premises'
import type { AreaShape, Circle, Polygon } from './shape'

/** Positions by number, in degrees. */
export interface Positions {
  lon: Float64Array
  lat: Float64Array
}

/** Whether positions lie in something: one, or many at once, of which those that were no (0) so far and are in it become yes (1). */
export interface PositionTest {
  has(lon: number, lat: number): boolean
  mark(positions: Positions, said: Uint8Array): void
}

/** Cells along each edge of the grid that is laid over a polygon. */
const CELLS = 64
const [OUTSIDE, INSIDE, EDGE] = [0, 1, 2]

/**
 * Whether a position lies in one polygon, holes taken out. A grid of cells is laid over it once: a position in a cell that
 * no side touches is answered by the cell; any other by the sides of its row, by the even-odd rule (M. Shimrat, Algorithm
 * 112, Communications of the ACM 5(8), 1962). A position on a side may fall either way.
 */
export class PolygonTest implements PositionTest {
  private readonly west: number
  private readonly east: number
  private readonly south: number
  private readonly north: number
  /** Cells a degree, each way; none where the polygon has no extent that way. */
  private readonly perLon: number
  private readonly perLat: number
  private readonly cells = new Uint8Array(CELLS * CELLS)
  private readonly rows: Float64Array[]

  constructor(polygon: Polygon) {
    const corners = polygon.flat()
    this.west = Math.min(...extremes(corners, 0))
    this.east = Math.max(...extremes(corners, 0))
    this.south = Math.min(...extremes(corners, 1))
    this.north = Math.max(...extremes(corners, 1))
    this.perLon = this.east === this.west ? 0 : CELLS / (this.east - this.west)
    this.perLat = this.north === this.south ? 0 : CELLS / (this.north - this.south)
    const rows: number[][] = Array.from({ length: CELLS }, () => [])
    for (const ring of polygon) {
      ring.forEach(([x1, y1], i) => {
        const [x2, y2] = ring[(i + 1) % ring.length]
        const [low, high] = [this.row(Math.min(y1, y2)), this.row(Math.max(y1, y2))]
        for (let row = low; row <= high; row++) {
          rows[row].push(x1, y1, x2, y2)
          const [from, to] = this.span(x1, y1, x2, y2, row)
          for (let column = from; column <= to; column++) this.cells[row * CELLS + column] = EDGE
        }
      })
    }
    this.rows = rows.map((sides) => Float64Array.from(sides))
    const [width, height] = [(this.east - this.west) / CELLS, (this.north - this.south) / CELLS]
    for (let row = 0; row < CELLS; row++) {
      for (let column = 0; column < CELLS; column++) {
        const cell = row * CELLS + column
        if (this.cells[cell] !== EDGE)
          this.cells[cell] = this.bySides(this.west + (column + 0.5) * width, this.south + (row + 0.5) * height, row) ? INSIDE : OUTSIDE
      }
    }
  }

  has(lon: number, lat: number): boolean {
    if (lon < this.west || lon > this.east || lat < this.south || lat > this.north) return false
    const row = this.row(lat)
    const cell = this.cells[row * CELLS + this.column(lon)]
    return cell === EDGE ? this.bySides(lon, lat, row) : cell === INSIDE
  }

  mark({ lon, lat }: Positions, said: Uint8Array): void {
    // The box and the cells are looked at here and not by a call a position: most positions need no more.
    const { west, east, south, north, perLon, perLat, cells } = this
    for (let i = 0; i < said.length; i++) {
      if (said[i] !== 0) continue
      const x = lon[i]
      const y = lat[i]
      if (!(x >= west && x <= east && y >= south && y <= north)) continue
      const row = Math.min(CELLS - 1, ((y - south) * perLat) | 0)
      const cell = cells[row * CELLS + Math.min(CELLS - 1, ((x - west) * perLon) | 0)]
      if (cell === INSIDE || (cell === EDGE && this.bySides(x, y, row))) said[i] = 1
    }
  }

  private row(lat: number): number {
    return Math.max(0, Math.min(CELLS - 1, Math.floor((lat - this.south) * this.perLat)))
  }

  private column(lon: number): number {
    return Math.max(0, Math.min(CELLS - 1, Math.floor((lon - this.west) * this.perLon)))
  }

  /** The columns that a side touches in a row, one more on either hand for what rounding may do. */
  private span(x1: number, y1: number, x2: number, y2: number, row: number): [number, number] {
    const height = (this.north - this.south) / CELLS
    const [bottom, top] = [this.south + row * height, this.south + (row + 1) * height]
    const at = (y: number) =>
      y1 === y2 ? x1 : x1 + ((Math.max(Math.min(y, Math.max(y1, y2)), Math.min(y1, y2)) - y1) / (y2 - y1)) * (x2 - x1)
    const [a, b] = y1 === y2 ? [x1, x2] : [at(bottom), at(top)]
    return [Math.max(0, this.column(Math.min(a, b)) - 1), Math.min(CELLS - 1, this.column(Math.max(a, b)) + 1)]
  }

  private bySides(lon: number, lat: number, row: number): boolean {
    const sides = this.rows[row]
    let inside = false
    for (let i = 0; i < sides.length; i += 4) {
      const y1 = sides[i + 1]
      const y2 = sides[i + 3]
      if (y1 > lat !== y2 > lat && lon < ((sides[i + 2] - sides[i]) * (lat - y1)) / (y2 - y1) + sides[i]) inside = !inside
    }
    return inside
  }
}

function extremes(corners: Polygon[number], axis: 0 | 1): [number, number] {
  let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  for (const corner of corners) {
    if (corner[axis] < least) least = corner[axis]
    if (corner[axis] > most) most = corner[axis]
  }
  return [least, most]
}

/** Degrees of latitude that no distance in metres on earth exceeds. */
const DEGREES_PER_METRE = 1 / 110_000

/** By the distance of a position from the centre of a circle. */
export function circleTest({ lat, lon, metres }: Circle): PositionTest {
  const reach = metres * DEGREES_PER_METRE
  const has = (x: number, y: number) => Math.abs(y - lat) <= reach && metresApart({ lat: y, lon: x }, { lat, lon }) <= metres
  return {
    has,
    mark: (positions, said) =>
      said.forEach((was, i) => {
        if (was === 0 && has(positions.lon[i], positions.lat[i])) said[i] = 1
      }),
  }
}

/** In any polygon or circle of some areas. */
export function positionTest(shapes: readonly AreaShape[]): PositionTest {
  const tests = shapes.flatMap(({ polygons, circles }): PositionTest[] => [
    ...polygons.map((polygon) => new PolygonTest(polygon)),
    ...circles.map(circleTest),
  ])
  return {
    has: (lon, lat) => tests.some((test) => test.has(lon, lat)),
    mark: (positions, said) => tests.forEach((test) => test.mark(positions, said)),
  }
}

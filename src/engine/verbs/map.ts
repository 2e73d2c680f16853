import { mixed, number, tuple, object, type InferType } from 'yup'
import { screenName, pageOfLines, moment, view, isShape } from './parts'
import { verb } from './verb'
import { subjectOf } from '@/core/lists/line'
import { viewOf } from '@/core/lists/view'
import { picked, type Sources } from '@/engine/sources'
import { inShape } from './in-shape'

const schema = object({
  ...screenName,
  ...pageOfLines,
  moment: moment(),
  view: view(),
  /** West, south, east, north in degrees. */
  box: tuple([number().required(), number().required(), number().required(), number().required()]).required(),
  /** Squares from west to east. */
  columns: number().required(),
  /** Counts those of them that lie in a shape that is being drawn. */
  shape: mixed(isShape).nullable().optional(),
})
export type MapRequest = InferType<typeof schema>

/** Premises of a square are named up to so many. */
export const MOST_NAMED = 4

/** Where those behind a tab or figure lie. */
async function answerMap(sources: Sources, request: MapRequest): Promise<MapAnswer> {
  const work = await picked(sources, [request])
  const { lines, view, box, shape } = request
  const set = viewOf(work(request, request.moment), lines, view)
  const { people, organisations, premises } = sources.model.directory
  const subject = subjectOf(lines)
  const link = subject === 'person' ? people.at : organisations.at
  const [west, south, east, north] = box
  const wide = (east - west) / Math.max(1, Math.min(200, request.columns))
  // A square on the map is as high as it is wide there, and degrees of longitude shrink towards the poles.
  const high = wide * Math.max(0.1, Math.cos((((south + north) / 2) * Math.PI) / 180))
  const squares = new Map<number, { lat: number; lon: number; count: number; premises: Set<number> }>()
  let placed = 0
  set.forEach((n) => {
    const at = subject === 'premises' ? n : link.at(n)
    if (at < 0 || !premises.live.has(at) || !premises.placed(at)) return
    placed++
    const [lat, lon] = [premises.lat[at], premises.lon[at]]
    if (lon < west || lon > east || lat < south || lat > north) return
    const key = Math.floor((lon - west) / wide) + 1000 * Math.floor((lat - south) / high)
    let square = squares.get(key)
    if (!square) squares.set(key, (square = { lat: 0, lon: 0, count: 0, premises: new Set() }))
    square.count++
    square.lat += lat
    square.lon += lon
    if (square.premises.size <= MOST_NAMED) square.premises.add(premises.idAt(at))
  })
  const points = [...squares.values()].map(({ lat, lon, count, premises: named }) => ({
    lat: lat / count,
    lon: lon / count,
    count,
    premises: named.size <= MOST_NAMED ? [...named] : [],
  }))
  return {
    points,
    placed,
    total: set.count(),
    inShape: shape ? inShape(set, shape, sources.model.directory.of(subject), request.moment).count() : null,
  }
}

export interface MapAnswer {
  /** Premises of records in view, gathered: how many records, and the premises themselves where they are few. */
  points: { lat: number; lon: number; count: number; premises: number[] }[]
  placed: number
  total: number
  inShape: number | null
}

export const map = verb(schema, answerMap)

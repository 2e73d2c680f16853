import Feature from 'ol/Feature'
import GeoJSON from 'ol/format/GeoJSON'
import KML from 'ol/format/KML'
import type Geometry from 'ol/geom/Geometry'
import GeometryCollection from 'ol/geom/GeometryCollection'
import MultiPolygon from 'ol/geom/MultiPolygon'
import Polygon, { circular } from 'ol/geom/Polygon'
import type { AreaShape, Polygon as Rings, Ring } from '@/core/areas/shape'

/** An area as a file has it: its name and shape. */
export interface FiledArea {
  name: string
  shape: AreaShape
}

export type AreaFormat = 'geojson' | 'kml'

const formatOf = (format: AreaFormat) => (format === 'kml' ? new KML({ extractStyles: false, writeStyles: false }) : new GeoJSON())

/**
 * Areas as GeoJSON (RFC 7946) or KML (OGC 12-007r2). A circle goes out as a polygon of 96 corners; GeoJSON has it besides as
 * its centre and metres, by which it comes back as a circle, and streets as they are.
 */
export function writeAreas(areas: readonly FiledArea[], format: AreaFormat): string {
  const features = areas.map(({ name, shape }) => {
    const rings = [
      ...shape.polygons.map((own) => own.map((ring) => [...ring, ring[0]])),
      ...shape.circles.map(({ lat, lon, metres }) => circular([lon, lat], metres, 96).getCoordinates()),
    ]
    const feature = new Feature(rings.length === 0 ? undefined : new MultiPolygon(rings as number[][][][]))
    feature.set('name', name)
    if (format === 'geojson') feature.set('area', shape)
    return feature
  })
  return formatOf(format).writeFeatures(features, { decimals: 7 })
}

/** The areas in a file of either format. What is no polygon is left out. Throws an Error with a sentence where there is none, or the file cannot be read. */
export function readAreas(text: string, fileName: string): FiledArea[] {
  const format: AreaFormat = /^\s*[{[]/.test(text) ? 'geojson' : 'kml'
  let features: Feature[]
  try {
    features = formatOf(format).readFeatures(text) as Feature[]
  } catch {
    throw new Error(`${fileName} is neither GeoJSON nor KML that can be read. Nothing was taken from it.`)
  }
  const areas = features.flatMap((feature, i): FiledArea[] => {
    const own = feature.get('area') as AreaShape | undefined
    const shape =
      own?.polygons && own.circles && own.streets ? own : { polygons: polygonsOf(feature.getGeometry()), circles: [], streets: [] }
    return shape.polygons.length + shape.circles.length + shape.streets.length === 0
      ? []
      : [{ name: String(feature.get('name') ?? '').trim() || `${fileName.replace(/\.\w+$/, '')} ${i + 1}`, shape }]
  })
  if (areas.length === 0) throw new Error(`There is no polygon in ${fileName}. Nothing was taken from it.`)
  return areas
}

function polygonsOf(geometry: Geometry | undefined): Rings[] {
  if (geometry instanceof Polygon) return [geometry.getCoordinates().map(ringOf)]
  if (geometry instanceof MultiPolygon) return geometry.getCoordinates().map((rings) => rings.map(ringOf))
  if (geometry instanceof GeometryCollection) return geometry.getGeometries().flatMap(polygonsOf)
  return []
}

const ringOf = (ring: number[][]): Ring => ring.map(([lon, lat]): [number, number] => [lon, lat])

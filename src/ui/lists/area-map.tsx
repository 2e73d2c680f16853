'use client'

import 'ol/ol.css'
import Feature from 'ol/Feature'
import GeoJSON from 'ol/format/GeoJSON'
import CircleGeometry from 'ol/geom/Circle'
import Point from 'ol/geom/Point'
import Polygon, { circular } from 'ol/geom/Polygon'
import Draw from 'ol/interaction/Draw'
import Modify from 'ol/interaction/Modify'
import VectorLayer from 'ol/layer/Vector'
import OlMap from 'ol/Map'
import { fromLonLat, toLonLat, transformExtent } from 'ol/proj'
import VectorSource from 'ol/source/Vector'
import { getDistance } from 'ol/sphere'
import { Circle as Disc, Fill, Stroke, Style, Text } from 'ol/style'
import View from 'ol/View'
import { useEffect, useRef } from 'react'
import type { AreaShape, Ring } from '@/core/areas/shape'

export type Tool = 'look' | 'polygon' | 'hole' | 'circle' | 'corners'
export type Box = [west: number, south: number, east: number, north: number]
export interface MapPoint {
  lat: number
  lon: number
  count: number
  premises: number[]
}

const INK = '#1D2523'
const SOFT = '#5A645F'
const VERDIGRIS = '#1B5E55'
const OCHRE = '#7E5410'

const BASE: Record<string, (name: string, scale: number) => Style> = {
  land: () => new Style({ fill: new Fill({ color: '#F3F0E6' }), stroke: new Stroke({ color: '#DED7C8', width: 1 }) }),
  water: () => new Style({ fill: new Fill({ color: '#D9E4E2' }), stroke: new Stroke({ color: '#B9CBC8', width: 1 }) }),
  river: (_, scale) => new Style({ stroke: new Stroke({ color: '#C4D6D3', width: scale < 20 ? 8 : 4 }) }),
  road: () => new Style({ stroke: new Stroke({ color: '#C9BFA9', width: 3 }) }),
  street: (_, scale) => new Style({ stroke: new Stroke({ color: '#DED7C8', width: scale < 12 ? 4 : 1.5 }) }),
  town: (name) =>
    new Style({
      text: new Text({
        text: name,
        offsetY: -30,
        font: '600 13px "Hanken Grotesk Variable", sans-serif',
        fill: new Fill({ color: INK }),
        stroke: new Stroke({ color: '#FDFCF9', width: 3 }),
      }),
    }),
}

const LABELLED = new Style({
  text: new Text({
    font: '11px "Hanken Grotesk Variable", sans-serif',
    placement: 'line',
    fill: new Fill({ color: SOFT }),
    stroke: new Stroke({ color: '#FDFCF9', width: 2 }),
  }),
})
const OUTLINE = new Style({ fill: new Fill({ color: 'rgba(27, 94, 85, 0.13)' }), stroke: new Stroke({ color: VERDIGRIS, width: 2 }) })

function pointStyle(count: number, chosen: boolean): Style {
  const radius = count === 1 ? 4 : Math.min(20, 7 + Math.log2(count) * 1.6)
  return new Style({
    image: new Disc({
      radius,
      fill: new Fill({ color: chosen ? OCHRE : count === 1 ? VERDIGRIS : 'rgba(27, 94, 85, 0.85)' }),
      stroke: new Stroke({ color: '#FDFCF9', width: 1.5 }),
    }),
    ...(count > 1
      ? {
          text: new Text({
            text: count > 9999 ? `${Math.round(count / 1000)}k` : String(count),
            font: '600 11px "Hanken Grotesk Variable", sans-serif',
            fill: new Fill({ color: '#FDFCF9' }),
          }),
        }
      : {}),
  })
}

/** The map of the county with an area that can be drawn on it, and records gathered in points. Everything on it can be had beside it by typing as well. */
export function AreaMap({
  shape,
  onShape,
  tool,
  onDrawn,
  points,
  chosen,
  onBox,
  onPoint,
  fit,
  label,
}: {
  shape: AreaShape
  onShape?: (shape: AreaShape) => void
  tool: Tool
  onDrawn?: () => void
  points: readonly MapPoint[]
  /** Premises that are chosen beside the map. */
  chosen?: ReadonlySet<number>
  onBox?: (box: Box, columns: number) => void
  onPoint?: (point: MapPoint) => void
  /** What the map begins with in view. */
  fit?: Box | null
  label: string
}) {
  const element = useRef<HTMLDivElement>(null)
  const held = useRef<{ map: OlMap; drawn: VectorSource; dots: VectorSource } | null>(null)
  const last = useRef({ shape, onShape, onBox, onPoint, onDrawn })
  last.current = { shape, onShape, onBox, onPoint, onDrawn }

  // biome-ignore lint/correctness/useExhaustiveDependencies: the map is made once; what changes is read from `last`
  useEffect(() => {
    if (!element.current) return
    const [base, drawn, dots] = [new VectorSource(), new VectorSource(), new VectorSource()]
    const map = new OlMap({
      target: element.current,
      layers: [
        new VectorLayer({
          source: base,
          style: (feature, resolution) => {
            const [kind, name] = [String(feature.get('kind')), String(feature.get('name') ?? '')]
            if (kind === 'street' && resolution > 40) return
            if (kind === 'town') return
            const style = BASE[kind]?.(name, resolution)
            if (kind !== 'street' || resolution > 6) return style
            LABELLED.getText()?.setText(name.split(',')[0])
            return style ? [style, LABELLED] : LABELLED
          },
        }),
        new VectorLayer({ source: drawn, style: OUTLINE }),
        new VectorLayer({ source: dots, style: (feature) => pointStyle(feature.get('count'), feature.get('chosen')) }),
        // Names of towns stand over the points.
        new VectorLayer({
          source: base,
          style: (feature) => (feature.get('kind') === 'town' ? BASE.town(String(feature.get('name')), 0) : undefined),
        }),
      ],
      view: new View({ center: fromLonLat([1.53, 55.33]), zoom: 10 }),
    })
    const abort = new AbortController()
    fetch('/api/map', { signal: abort.signal })
      .then((response) => response.json())
      .then((json) => {
        base.addFeatures(new GeoJSON({ featureProjection: 'EPSG:3857' }).readFeatures(json))
        map.updateSize()
        const [west, south, east, north] = fit ? transformExtent(fit, 'EPSG:4326', 'EPSG:3857') : (base.getExtent() ?? [0, 0, 0, 0])
        if (Number.isFinite(west) && west < east) map.getView().fit([west, south, east, north], { padding: [20, 20, 20, 20], maxZoom: 17 })
      })
      .catch(() => {})
    map.on('moveend', () => {
      const [west, south, east, north] = transformExtent(map.getView().calculateExtent(map.getSize()), 'EPSG:3857', 'EPSG:4326')
      last.current.onBox?.([west, south, east, north], Math.max(4, Math.round((map.getSize()?.[0] ?? 600) / 48)))
    })
    map.on('click', (event) => {
      const hit = map.forEachFeatureAtPixel(event.pixel, (feature) => feature.get('point') as MapPoint | undefined)
      if (hit) last.current.onPoint?.(hit)
    })
    held.current = { map, drawn, dots }
    return () => {
      abort.abort()
      map.setTarget(undefined)
    }
  }, [])

  useEffect(() => {
    const source = held.current?.drawn
    if (!source) return
    source.clear()
    shape.polygons.forEach((rings, i) => {
      const feature = new Feature(new Polygon(rings.map((ring) => [...ring, ring[0]].map((corner) => fromLonLat(corner)))))
      feature.set('polygon', i)
      source.addFeature(feature)
    })
    for (const { lat, lon, metres } of shape.circles)
      source.addFeature(new Feature(circular([lon, lat], metres, 96).transform('EPSG:4326', 'EPSG:3857')))
  }, [shape])

  useEffect(() => {
    const source = held.current?.dots
    if (!source) return
    source.clear()
    source.addFeatures(
      points.map(
        (point) =>
          new Feature({
            geometry: new Point(fromLonLat([point.lon, point.lat])),
            count: point.count,
            point,
            chosen: point.premises.some((id) => chosen?.has(id)),
          }),
      ),
    )
  }, [points, chosen])

  useEffect(() => {
    const at = held.current
    if (!at || tool === 'look') return
    const change = (next: Partial<AreaShape>) => last.current.onShape?.({ ...last.current.shape, ...next })
    const ringOf = (polygon: Polygon, ring = 0): Ring =>
      polygon
        .getCoordinates()
        [ring].slice(0, -1)
        .map((corner) => rounded(toLonLat(corner)))
    if (tool === 'corners') {
      const modify = new Modify({ source: at.drawn })
      modify.on('modifyend', () => {
        const polygons = [...last.current.shape.polygons]
        for (const feature of at.drawn.getFeatures()) {
          const i = feature.get('polygon')
          const geometry = feature.getGeometry()
          if (i !== undefined && geometry instanceof Polygon)
            polygons[i] = geometry.getCoordinates().map((_, ring) => ringOf(geometry, ring))
        }
        change({ polygons })
      })
      at.map.addInteraction(modify)
      return () => void at.map.removeInteraction(modify)
    }
    const draw = new Draw({ source: new VectorSource(), type: tool === 'circle' ? 'Circle' : 'Polygon' })
    draw.on('drawend', ({ feature }) => {
      const geometry = feature.getGeometry()
      const { polygons, circles } = last.current.shape
      if (geometry instanceof CircleGeometry) {
        const centre = toLonLat(geometry.getCenter())
        const [lon, lat] = rounded(centre)
        const edge = toLonLat([geometry.getCenter()[0] + geometry.getRadius(), geometry.getCenter()[1]])
        change({ circles: [...circles, { lat, lon, metres: Math.round(getDistance(centre, edge)) }] })
      } else if (geometry instanceof Polygon) {
        const ring = ringOf(geometry)
        const around =
          tool === 'hole' ? polygons.findIndex(([outer]) => new Polygon([[...outer, outer[0]]]).intersectsCoordinate(ring[0])) : -1
        change({ polygons: around < 0 ? [...polygons, [ring]] : polygons.map((rings, i) => (i === around ? [...rings, ring] : rings)) })
      }
      last.current.onDrawn?.()
    })
    at.map.addInteraction(draw)
    return () => void at.map.removeInteraction(draw)
  }, [tool])

  return (
    <div
      ref={element}
      role="application"
      aria-label={label}
      className="h-full min-h-[320px] w-full rounded-md border border-rule bg-[#D9E4E2]"
    />
  )
}

const rounded = ([lon, lat]: number[]): [number, number] => [Number(lon.toFixed(6)), Number(lat.toFixed(6))]

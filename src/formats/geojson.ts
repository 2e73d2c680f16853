import { createReadStream } from 'node:fs'
import { pipeline } from 'node:stream'
import iconv from 'iconv-lite'
import parser from 'stream-json'
import pick from 'stream-json/filters/pick.js'
import streamArray from 'stream-json/streamers/stream-array.js'
import { region } from '@/runtime/settings'
import { encodingOf } from './encoding'
import { checkCells, checkWidth, type Format, nothingStored, SHOWN_FIRST, Unreadable } from './format'
import { flatten } from './jsonl'

interface Feature {
  type?: string
  id?: string | number
  geometry?: { type?: string; coordinates?: unknown } | null
  properties?: object | null
}

/** Where premises of a region lie, in degrees: south, north, west, east, generously (from memory). Elsewhere only what is no place on earth tells. */
const REGION: Record<string, [number, number, number, number]> = {
  GB: [49, 61.5, -9, 2.5],
  IE: [51, 56, -11, -5],
  FR: [41, 51.5, -5.5, 10],
  DE: [47, 55.5, 5.5, 15.5],
  ES: [35.5, 44, -9.5, 4.5],
  SE: [55, 69.5, 10.5, 24.5],
}

/**
 * GeoJSON (RFC 7946): a row a feature of a collection, with its position where it is a point, its kind of geometry, and
 * its properties. Numbers keep every digit they came with. Positions are longitude first; where they only make sense the other way round that is offered.
 */
export const geojson: Format = {
  async look(path, asked) {
    const encoding = asked.encoding ?? (await encodingOf(path))
    const columns = new Set(['Feature id', 'Geometry', 'Longitude', 'Latitude'])
    const shown: Map<string, string>[] = []
    let rows = 0
    const points = { all: 0, right: 0, swapped: 0 }
    for await (const feature of features(path, encoding)) {
      const record = recordOf(feature, asked.swapped ?? false, rows + 1)
      const titles = [...record.keys()]
      for (const key of titles) columns.add(key)
      checkWidth(columns.size)
      checkCells(record.values(), rows + 1, (column) => titles[column])
      if (shown.length < SHOWN_FIRST) shown.push(record)
      rows++
      const at = pointOf(feature)
      if (!at) continue
      points.all++
      if (likely(at[1], at[0])) points.right++
      if (likely(at[0], at[1])) points.swapped++
    }
    if (rows === 0) throw new Unreadable('The collection holds no features, so there is nothing to bring in.')
    const header = [...columns]
    const swappable = points.all > 0 && points.right === 0 && points.swapped === points.all
    return {
      reading: { format: 'geojson', encoding, headerRow: 0, ...(asked.swapped ? { swapped: true } : {}) },
      header,
      first: shown.map((record) => header.map((key) => record.get(key) ?? '')),
      rows,
      choices: swappable ? { swappable: points.all } : {},
    }
  },

  async *rows(path, { encoding = 'UTF-8', swapped = false }, header) {
    let number = 0
    for await (const feature of features(path, encoding)) {
      const record = recordOf(feature, swapped, ++number)
      yield header.map((key) => record.get(key) ?? '')
    }
  },
}

/** Whether a latitude and longitude lie on earth, and in the team's region where its borders are known. */
function likely(lat: number, lon: number): boolean {
  const borders = REGION[region()]
  if (!borders) return Math.abs(lat) <= 90 && Math.abs(lon) <= 180
  const [south, north, west, east] = borders
  return lat >= south && lat <= north && lon >= west && lon <= east
}

/** The two numbers of a point, in the order of the file, with the digits they came with. */
function digitsOf({ geometry }: Feature): [string, string] | null {
  const at = geometry?.type === 'Point' ? geometry.coordinates : null
  return Array.isArray(at) && [at[0], at[1]].every((n) => typeof n === 'string' && n !== '' && Number.isFinite(Number(n)))
    ? [at[0], at[1]]
    : null
}

const pointOf = (feature: Feature): [number, number] | null => {
  const digits = digitsOf(feature)
  return digits && [Number(digits[0]), Number(digits[1])]
}

function recordOf(feature: Feature, swapped: boolean, number: number): Map<string, string> {
  const record = new Map<string, string>()
  if (feature.id !== undefined && feature.id !== null) record.set('Feature id', String(feature.id))
  if (feature.geometry?.type) record.set('Geometry', String(feature.geometry.type))
  const at = digitsOf(feature)
  if (at) {
    record.set('Longitude', at[swapped ? 1 : 0])
    record.set('Latitude', at[swapped ? 0 : 1])
  }
  try {
    if (feature.properties && typeof feature.properties === 'object') flatten(feature.properties, '', record, 0)
  } catch (error) {
    // Only a value nested thousands of levels deep runs out of stack.
    throw error instanceof RangeError ? new Unreadable(`Feature ${number} is nested too deeply to be read. ${nothingStored}`) : error
  }
  return record
}

async function* features(path: string, encoding: string): AsyncGenerator<Feature> {
  // What goes wrong anywhere along it ends it, and is thrown where it is read.
  const items = pipeline(
    createReadStream(path),
    iconv.decodeStream(encoding),
    parser(),
    pick.asStream({ filter: 'features' }),
    streamArray.asStream({ numberAsString: true }),
    () => {},
  )
  let number = 0
  try {
    for await (const { value } of items as unknown as AsyncIterable<{ value: Feature }>) {
      number++
      if (typeof value !== 'object' || value === null || value.type !== 'Feature')
        throw new Unreadable(`Item ${number} of the collection is not a feature. ${nothingStored}`)
      yield value
    }
  } catch (error) {
    throw error instanceof Unreadable
      ? error
      : new Unreadable(
          `The GeoJSON breaks off or goes wrong after feature ${number} (${(error as Error).message.slice(0, 120)}). ${nothingStored}`,
        )
  }
}

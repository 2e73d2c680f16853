import type { County } from './county'
import { Random } from '@/core/checks/random'
import { FAMILY, GIVEN, STREETS, TOWNS } from './words'

/** Where the made-up county lies: in the sea, so that nothing of it is anywhere. Degrees; the south-west corner of each town's square. */
export function townCorner(town: number): { lat: number; lon: number } {
  return { lat: 55.2 + Math.floor(town / 4) * 0.12, lon: 1.2 + (town % 4) * 0.2 }
}

/** The middle of a street of a town at a house number from 0 to 160: half the streets run from west to east, half from south to north. */
function onStreet(town: number, street: number, house: number): { lat: number; lon: number } {
  const { lat, lon } = townCorner(town)
  const along = house / 160
  const bend = 0.0009 * Math.sin(along * 4 + street + town)
  const across = Math.floor(street / 2) / 10
  return street % 2 === 0
    ? { lat: lat + 0.002 + 0.027 * across + bend, lon: lon + 0.003 + 0.044 * along }
    : { lat: lat + 0.002 + 0.027 * along, lon: lon + 0.004 + 0.043 * across + bend * 1.6 }
}

/** Where a house stands: odd numbers on one hand of the street, even ones on the other. */
export function houseAt(town: string, street: string, house: number): { lat: number; lon: number } | null {
  const [t, s] = [TOWNS.findIndex(([name]) => name === town), (STREETS as readonly string[]).indexOf(street)]
  if (t < 0 || s < 0) return null
  const { lat, lon } = onStreet(t, s, house)
  const side = house % 2 === 1 ? 0.00022 : -0.00022
  return s % 2 === 0 ? { lat: lat + side, lon } : { lat, lon: lon + side * 1.7 }
}

type Feature = { type: 'Feature'; properties: Record<string, string>; geometry: { type: string; coordinates: unknown } }

/** The county as a map, as GeoJSON (RFC 7946): roads, streets, water, land and the names of towns. */
export function countyMap(): { type: 'FeatureCollection'; features: Feature[] } {
  const features: Feature[] = []
  const add = (kind: string, name: string, type: string, coordinates: unknown) =>
    features.push({ type: 'Feature', properties: { kind, name }, geometry: { type, coordinates } })
  const round = ({ lat, lon }: { lat: number; lon: number }): [number, number] => [Number(lon.toFixed(5)), Number(lat.toFixed(5))]
  const coast = Array.from({ length: 60 }, (_, i) => {
    const turn = (i / 60) * 2 * Math.PI
    const far = 1 + 0.05 * Math.sin(turn * 3 + 1) + 0.03 * Math.sin(turn * 7)
    return round({ lat: 55.335 + 0.2 * far * Math.sin(turn), lon: 1.53 + 0.44 * far * Math.cos(turn) })
  })
  add('land', 'Pellow County', 'Polygon', [[...coast, coast[0]]])
  const river = Array.from({ length: 46 }, (_, i) => ({ lat: 55.16 + i * 0.0085, lon: 1.62 + 0.08 * Math.sin(i / 5) - i * 0.004 }))
  add('river', 'The Wendle', 'LineString', river.map(round))
  const mere = Array.from({ length: 24 }, (_, i) =>
    round({ lat: 55.397 + 0.012 * Math.sin((i / 24) * 2 * Math.PI), lon: 1.355 + 0.022 * Math.cos((i / 24) * 2 * Math.PI) }),
  )
  add('water', 'Saltrey Mere', 'Polygon', [[...mere, mere[0]]])
  const middle = (town: number) => ({ lat: townCorner(town).lat + 0.015, lon: townCorner(town).lon + 0.025 })
  TOWNS.forEach(([name], t) => {
    STREETS.forEach((street, s) =>
      add(
        'street',
        `${street}, ${name}`,
        'LineString',
        [0, 20, 40, 60, 80, 100, 120, 140, 160].map((house) => round(onStreet(t, s, house))),
      ),
    )
    for (const next of [t % 4 < 3 ? t + 1 : -1, t + 4 < TOWNS.length ? t + 4 : -1]) {
      if (next < 0) continue
      const [a, b] = [middle(t), middle(next)]
      add(
        'road',
        `${name} to ${TOWNS[next][0]}`,
        'LineString',
        [0, 0.25, 0.5, 0.75, 1].map((w) =>
          round({
            lat: a.lat + (b.lat - a.lat) * w + 0.004 * Math.sin(w * Math.PI * 2),
            lon: a.lon + (b.lon - a.lon) * w + 0.006 * Math.sin(w * Math.PI * 2 + t),
          }),
        ),
      )
    }
    add('town', name, 'Point', round(middle(t)))
  })
  return { type: 'FeatureCollection', features }
}

const ROOFS: Record<string, readonly [number, number]> = {
  school: [600, 2600],
  clinic: [250, 900],
  'care home': [400, 1500],
  brewery: [500, 3000],
  dairy: [600, 3500],
  'plant nursery': [300, 4000],
  'housing body': [200, 900],
  library: [300, 900],
  leisure: [900, 4200],
  warehouse: [1500, 9000],
  workshop: [200, 900],
  shop: [120, 500],
  hall: [150, 500],
}
const PUBLIC = new Set(['school', 'library', 'hall'])
const LANDLORDS = [
  'Amberstead Estates Ltd',
  'Marsh & Lock Property Ltd',
  'Rookgate Holdings Ltd',
  'Tealcombe Land Trust',
  'Old Toll Investments Ltd',
]

export const PREMISES_HEADER = [
  'Id',
  'Building',
  'Type',
  'Street',
  'Town',
  'County',
  'Postcode',
  'Latitude',
  'Longitude',
  'Roof area',
  'Year built',
  'Owner',
  'Owner type',
  'Bedrooms',
  'Floor area',
  'Last transfer',
  'Price at the last transfer',
  'Bought without a loan',
  'Value',
  'Loan on it',
  'Listed for sale',
  'Likely to change hands',
  'Owner: street',
  'Owner: town',
  'Owner: county',
  'Owner: postcode',
  'Owner: country',
]

/** Premises of the county as rows of a file: one for each organisation's address, and the houses of householders. */
export function premisesRows({ organisations, people }: County, today: number): string[][] {
  const random = new Random(5150)
  const taken = new Set<string>()
  const rows: string[][] = []
  const date = () => new Date(today - Math.floor(random.next() ** 1.6 * 30 * 365) * 86_400_000).toISOString().slice(0, 10)
  const maybe = (chance: number, value: () => string) => (random.chance(chance) ? value() : '')
  const money = (least: number, most: number) => String(Math.round((least + random.next() * (most - least)) / 1000) * 1000)
  const add = (
    name: string,
    kind: string,
    line: string,
    town: string,
    county: string,
    postcode: string,
    roof: number,
    owner: { name: string; kind: string; street: string; town: string; county: string; postcode: string; country: string },
    home: boolean,
  ) => {
    const [, house, street] = /^(\d+)(?:-\d+)? (.+)$/.exec(line) ?? []
    const at = house ? houseAt(town, street, Number(house)) : null
    const key = `${house} ${street}|${town}`
    if (!at || taken.has(key)) return
    taken.add(key)
    const value = Number(money(home ? 140_000 : 300_000, home ? 620_000 : 4_000_000))
    const cash = random.chance(0.22)
    const placed = random.chance(0.96)
    rows.push([
      `B${String(rows.length + 1).padStart(5, '0')}`,
      name,
      kind,
      line,
      town,
      county,
      postcode,
      placed ? at.lat.toFixed(6) : '',
      placed ? at.lon.toFixed(6) : '',
      maybe(0.85, () => String(roof)),
      maybe(0.8, () => String(1820 + random.below(203))),
      owner.name,
      owner.kind,
      home ? maybe(0.8, () => String(1 + random.below(5))) : '',
      maybe(0.7, () => String(Math.round(roof * (home ? 1.6 : 1.2)))),
      maybe(0.85, date),
      maybe(0.7, () => money(value * 0.3, value)),
      maybe(0.75, () => (cash ? 'yes' : 'no')),
      maybe(0.85, () => String(value)),
      maybe(0.75, () => (cash ? '0' : money(0, value * 0.95))),
      maybe(0.9, () => (random.chance(0.04) ? 'yes' : 'no')),
      maybe(0.4, () =>
        random.weigh([
          ['unlikely', 6],
          ['possible', 3],
          ['likely', 1],
        ]),
      ),
      owner.street,
      owner.town,
      owner.county,
      owner.postcode,
      owner.country,
    ])
  }
  for (const o of organisations) {
    const [least, most] = ROOFS[o.industry] ?? [150, 800]
    const own = {
      name: o.name,
      kind: PUBLIC.has(o.industry) ? 'public body' : o.industry === 'housing body' ? 'trust' : 'company',
      street: o.street,
      town: o.town,
      county: o.county,
      postcode: o.postcode,
      country: '',
    }
    const landlord = random.pick(LANDLORDS)
    const seat = LANDLORDS.indexOf(landlord)
    const let_ = {
      name: landlord,
      kind: landlord.endsWith('Trust') ? 'trust' : 'company',
      street: `${10 + seat * 7} Market Place`,
      town: TOWNS[seat][0],
      county: 'Pellow',
      postcode: `${TOWNS[seat][1]} 4QT`,
      country: seat === 4 ? 'Norrland' : '',
    }
    add(
      o.name,
      o.industry,
      o.street,
      o.town,
      o.county,
      o.postcode,
      least + random.below(most - least),
      random.weigh([
        [own, 68],
        [let_, 24],
        [{ name: '', kind: '', street: '', town: '', county: '', postcode: '', country: '' }, 8],
      ]),
      false,
    )
  }
  for (const p of people.filter((person) => person.organisation === '')) {
    const self = {
      name: `${p.given} ${p.family}`,
      kind: 'individual',
      street: p.street,
      town: p.town,
      county: p.county,
      postcode: p.postcode,
      country: '',
    }
    const town = random.below(TOWNS.length)
    const other = {
      name: `${random.pick(GIVEN)} ${random.pick(FAMILY)}`,
      kind: 'individual',
      street: `${1 + random.below(160)} ${random.pick(STREETS)}`,
      town: TOWNS[town][0],
      county: town < 6 ? 'Pellow' : 'Marle',
      postcode: `${TOWNS[town][1]} 3AB`,
      country: '',
    }
    const house = p.house ?? p
    add(
      house.street,
      'house',
      house.street,
      house.town,
      house.county,
      house.postcode,
      50 + random.below(130),
      random.chance(0.68) ? self : other,
      true,
    )
  }
  return rows
}

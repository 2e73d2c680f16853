import type { Prices } from '@/core/sources/source'
import { addressChecker } from './address-checker'
import { countyFeed } from './feed'
import { type Manners, type Route, serve } from './harness'
import { entry, searched } from './searched'
import { world } from './world'

/** Uncertain ones are never charged for (common practice, no source). The figures are made up. */
const PRICES: Prices = {
  currency: 'GBP',
  fetch: 4,
  fill: { verified: 9, uncertain: 0, nothing: 0 },
  check: { verified: 1, uncertain: 0, bad: 1 },
}

/**
 * The stand-ins behind one port, each under its own path: a business directory, a premises register, an address checker, a feed of
 * changes. `also` are routes of others.
 */
export function startStandins(port: number, manners: Manners, also: Record<string, Route> = {}) {
  const { businesses, premises, known } = world()
  const directory = searched(
    businesses.map((b) =>
      entry(
        { key: b.key, name: b.name, kind: b.kind, subKind: b.subKind, district: b.town, postcode: b.postcode },
        {
          // Whoever has no name to ask for is written to by the post they hold.
          Name: b.contact || 'The Manager',
          Role: b.role,
          Organisation: b.name,
          'Organisation type': b.kind,
          'Sub-kind': b.subKind,
          Employees: b.staff,
          'E-mail': b.email,
          Phone: b.phone,
          Street: b.street,
          Town: b.town,
          Postcode: b.postcode,
        },
      ),
    ),
  )
  const register = searched(
    premises.map((p) =>
      entry(
        { key: p.key, name: p.name, kind: p.kind, subKind: p.subKind, district: p.town, postcode: p.postcode },
        {
          Premises: p.name,
          'Kind of premises': p.kind,
          'Kind of roof': p.subKind,
          'Roof area': String(p.roof),
          'Year built': String(p.built),
          Owner: p.owner,
          'Kind of owner': p.ownerKind,
          Phone: p.phone,
          Street: p.street,
          Town: p.town,
          Postcode: p.postcode,
          Latitude: p.lat.toFixed(6),
          Longitude: p.lon.toFixed(6),
        },
      ),
    ),
  )
  const checker = addressChecker(known)
  const routes: Record<string, Route> = { '/prices': () => PRICES, ...also }
  const put = (service: string, of: Record<string, Route>) => {
    for (const [name, route] of Object.entries(of)) routes[`/${service}/${name}`] = route
  }
  put('directory', directory)
  put('premises', register)
  put('checker', checker)
  put('feed', countyFeed())
  return serve(routes, port, manners)
}

import type { PremisesView } from '@/core/views/record-views'
import { postalText } from '@/db/directory/postal-rows'

/** Returns premises as lists of results show them. */
export const viewOf = (p: {
  id: number
  lat: number | null
  lon: number | null
  name: string
  kind: string | null
  street: string | null
  town: string | null
  postcode: string | null
  roof_area: number | null
  owner: string | null
}): PremisesView => ({
  id: p.id,
  name: p.name,
  kind: p.kind,
  postal: postalText(p),
  roofArea: p.roof_area,
  owner: p.owner,
  position: p.lat === null || p.lon === null ? null : { lat: p.lat, lon: p.lon },
})

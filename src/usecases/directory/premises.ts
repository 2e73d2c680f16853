import type { PremisesPage, PremisesView } from '@/core/views/record-views'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { ledgerOf } from './ledger-of'
import { fieldsOf } from './field-values'
import { PAGE } from '@/usecases/lists/list-account'
import { premisesRow, premisesPage, premisesIdsSaying } from '@/db/directory/premises-rows'
import { postalText } from '@/db/directory/postal-rows'

/** The ids of all premises found, so many at most. */
export async function premisesIdsFound(_actor: Actor, typed: string, most: number): Promise<number[]> {
  return premisesIdsSaying(typed, most)
}

/** Premises whose name, street, town, owner or kind says every word that was typed. */
export async function findPremises(
  _actor: Actor,
  typed: string,
  sort: 'name' | 'town' | 'roof area' = 'name',
  offset = 0,
): Promise<{ total: number; premises: PremisesView[] }> {
  const { total, rows } = await premisesPage(db(), typed, sort, { offset, limit: PAGE })
  return { total, premises: rows.map(viewOf) }
}

const viewOf = (p: {
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

/** All that is known of premises, their ledger included. */
export async function openPremises(actor: Actor, id: number): Promise<PremisesPage> {
  const p = Number.isSafeInteger(id) ? await premisesRow(db(), id) : undefined
  if (!p) throw new Refused('There are no such premises in the directory.', 'not found')
  return {
    ...viewOf(p),
    state: p.state,
    outsideId: p.outside_id,
    county: p.county,
    yearBuilt: p.year_built,
    ownerKind: p.owner_kind,
    fields: await fieldsOf(p.details),
    ledger: await ledgerOf(actor, 'premises_id', [id]),
  }
}

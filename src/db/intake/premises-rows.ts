import type { CustomValues } from '@/core/clean/custom'
import { type HandedType, insertRows } from '@/db/insert-rows'
import type { Knex } from '@/db/connection'
import { fold } from '@/core/clean/fold'
import { comparablePostal } from '@/core/clean/postal'
import type { PremisesRow } from '@/core/clean/premises-row'
import { isSet } from './intake-store'

/** Premises as the table has them. */
export interface PremisesColumns {
  outside_id: string | null
  name: string
  named: boolean
  kind: string | null
  street: string | null
  town: string | null
  county: string | null
  postcode: string | null
  lat: number | null
  lon: number | null
  roof_area: number | null
  year_built: number | null
  owner: string | null
  owner_kind: string | null
  /** Fields by number. */
  details: CustomValues
}

export const TYPES: Record<string, HandedType> = {
  outside_id: 'text',
  name: 'text',
  name_key: 'text',
  named: 'boolean',
  kind: 'text',
  street: 'text',
  town: 'text',
  county: 'text',
  postcode: 'text',
  address_key: 'text',
  lat: 'double precision',
  lon: 'double precision',
  roof_area: 'int',
  year_built: 'int',
  owner: 'text',
  owner_kind: 'text',
  details: 'jsonb',
  owner_name_key: 'text',
  owner_organisation_key: 'text',
  owner_address_key: 'text',
}

/** Inserts premises with ids that were reserved for them. */
export async function insertPremises(trx: Knex, rows: (PremisesColumns & { id: number; batch_id: number; created_at: Date })[]) {
  return await insertRows(trx, 'premises', { id: 'bigint', batch_id: 'bigint', created_at: 'timestamptz', ...TYPES }, rows)
}

export type Known = PremisesColumns & { id: number; address_key: string | null }

/** Live premises that share an outside id, an address or a name with some rows, and those of one number. */
export function near(trx: Knex, rows: PremisesRow[], id: number | null): Promise<Known[]> {
  return trx('premises')
    .where({ state: 'live' })
    .where((some) =>
      some
        .whereRaw('outside_id = any(?::text[])', [rows.map((r) => r.outsideId).filter(isSet)])
        .orWhereRaw('address_key = any(?::text[])', [rows.map((r) => comparablePostal(r.postal)).filter(isSet)])
        .orWhereRaw('name_key = any(?::text[])', [rows.filter((r) => r.named).map((r) => fold(r.name))])
        .orWhere('id', id ?? -1),
    )
    .orderBy('id')
    .select(
      'id',
      'address_key',
      'outside_id',
      'name',
      'named',
      'kind',
      'street',
      'town',
      'county',
      'postcode',
      'lat',
      'lon',
      'roof_area',
      'year_built',
      'owner',
      'owner_kind',
      'details',
    )
}

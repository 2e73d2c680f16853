import type { Knex } from 'knex'
import { cleanWebsiteDomain } from '@/core/clean/website'
import { ownerLives } from '@/core/clean/owner'
import type { OwnerKind } from '@/core/clean/premises'
import type { OrganisationRecord } from '@/core/columns/organisation-record'
import type { PremisesRecord } from '@/core/columns/premises-record'
import { settings } from '@/runtime/settings'
import { ORGANISATIONS, PREMISES } from './person-parts'

export interface Standing<R> {
  live: boolean
  record: R
}

type Which = readonly number[] | 'all'

async function ask<T>(trx: Knex, sql: string, own: string, which: Which): Promise<T[]> {
  if (which === 'all') return (await trx.raw(sql.replace('{where}', 'true'))).rows
  return which.length === 0 ? [] : (await trx.raw(sql.replace('{where}', `${own} = any(?::bigint[])`), [which as number[]])).rows
}

/** Everything criteria can ask about organisations, some or all of them, live or not. */
export async function organisationRecords(trx: Knex, which: Which): Promise<Standing<OrganisationRecord>[]> {
  const rows = await ask<Record<string, never>>(trx, ORGANISATIONS, 'o.id', which)
  return rows.map((o) => ({
    live: o.live as boolean,
    record: {
      id: o.id,
      name: o.name,
      industry: o.industry,
      headCount: o.head_count,
      domain: o.website === null ? null : cleanWebsiteDomain(o.website),
      county: o.county,
      town: o.town,
      postcode: o.postcode,
      street: o.street,
      premises: o.premises_id,
      batches: o.batch_id === null ? [] : [o.batch_id],
      sortKey: o.sort_key,
      custom: o.details === null ? {} : JSON.parse(o.details),
    },
  }))
}

/** The same of premises. */
export async function premisesRecords(trx: Knex, which: Which): Promise<Standing<PremisesRecord>[]> {
  const rows = await ask<Record<string, never>>(trx, PREMISES, 's.id', which)
  const batches = new Map<number, number[]>()
  if (which !== 'all') for (const { premises, batch } of await premisesBatches(trx, which)) batches.set(premises, [...(batches.get(premises) ?? []), batch])
  const home = new Intl.DisplayNames(['en'], { type: 'region' }).of(settings().ARCH_REGION) ?? ''
  return rows.map((p) => {
    const custom = p.details === null ? {} : JSON.parse(p.details)
    return {
      live: p.live as boolean,
      record: {
        id: p.id,
        name: p.name,
        kind: p.kind,
        position: p.lat === null ? null : { lat: p.lat, lon: p.lon },
        roofArea: p.roof_area,
        yearBuilt: p.year_built,
        ownerKind: p.owner_kind as OwnerKind | null,
        ownerKey: p.owner_key,
        ownerLives: ownerLives(p as never, custom, home),
        ownerPerson: p.owner_person,
        ownerOrganisation: p.owner_organisation,
        county: p.county,
        town: p.town,
        postcode: p.postcode,
        street: p.street,
        batches: batches.get(p.id) ?? [],
        sortKey: p.sort_key,
        custom,
      },
    }
  })
}

/** The batches that premises stood in. */
export function premisesBatches(trx: Knex, which: Which): Promise<{ premises: number; batch: number }[]> {
  return trx('batch_row').whereNotNull('premises_id').whereNull('undone').modify((q) => which !== 'all' && q.whereRaw('premises_id = any(?::bigint[])', [which as number[]])).distinct('premises_id as premises', 'batch_id as batch')
}

import type { Knex } from 'knex'
import { cleanWebsiteDomain } from '@/core/clean/website'
import { ownerLives } from '@/core/clean/owner'
import type { OwnerKind } from '@/core/clean/premises'
import type { OrganisationRecord } from '@/core/records/organisation-record'
import type { PremisesRecord } from '@/core/records/premises-record'
import { settings } from '@/runtime/settings'
import { copyRows } from '@/db/copy-rows'
import { ORGANISATIONS, PREMISES } from './person-parts'

export interface Standing<R> {
  live: boolean
  record: R
}

type Row = Record<string, never>

/** Rows of some records as the driver makes them. */
async function some(trx: Knex, sql: string, own: string, ids: readonly number[]): Promise<Row[]> {
  return ids.length === 0 ? [] : (await trx.raw(sql.replace('{where}', `${own} = any(?::bigint[])`), [ids as number[]])).rows
}

/** Rows of all records one after the other, so that they are never all in memory. `trx` must be a transaction. */
function all(trx: Knex, sql: string, visit: (row: Row) => void): Promise<void> {
  return copyRows(trx, `select row_to_json(r)::text from (${sql.replace('{where}', 'true')}) r`, (row) =>
    visit(JSON.parse(row.text() as string)),
  )
}

/** Everything criteria can ask about some organisations, live or not. */
export async function organisationRecords(trx: Knex, ids: readonly number[]): Promise<Standing<OrganisationRecord>[]> {
  return (await some(trx, ORGANISATIONS, 'o.id', ids)).map(organisationOf)
}

/** The same of every organisation that is live. */
export function everyOrganisation(trx: Knex, visit: (record: OrganisationRecord) => void): Promise<void> {
  return all(trx, ORGANISATIONS, (row) => {
    const { live, record } = organisationOf(row)
    if (live) visit(record)
  })
}

function organisationOf(o: Row): Standing<OrganisationRecord> {
  return {
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
  }
}

/** Everything criteria can ask about some premises, live or not. */
export async function premisesRecords(trx: Knex, ids: readonly number[]): Promise<Standing<PremisesRecord>[]> {
  const rows = await some(trx, PREMISES, 's.id', ids)
  const batches = new Map<number, number[]>()
  if (rows.length > 0)
    for (const { premises, batch } of await premisesBatches(trx, ids)) batches.set(premises, [...(batches.get(premises) ?? []), batch])
  const made = premisesMaker()
  return rows.map((row) => made(row, batches.get(row.id) ?? []))
}

/** The same of all premises that are live, but for their batches. */
export function everyPremises(trx: Knex, visit: (record: PremisesRecord) => void): Promise<void> {
  const made = premisesMaker()
  return all(trx, PREMISES, (row) => {
    const { live, record } = made(row, [])
    if (live) visit(record)
  })
}

function premisesMaker(): (row: Row, batches: number[]) => Standing<PremisesRecord> {
  const home = new Intl.DisplayNames(['en'], { type: 'region' }).of(settings().ARCH_REGION) ?? ''
  return (p, batches) => {
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
        batches,
        sortKey: p.sort_key,
        custom,
      },
    }
  }
}

/** The batches that premises stood in. */
export function premisesBatches(trx: Knex, which: readonly number[] | 'all'): Promise<{ premises: number; batch: number }[]> {
  return trx('batch_row')
    .whereNotNull('premises_id')
    .whereNull('undone')
    .modify((q) => which !== 'all' && q.whereRaw('premises_id = any(?::bigint[])', [which as number[]]))
    .distinct('premises_id as premises', 'batch_id as batch')
}

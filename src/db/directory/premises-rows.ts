import { paged } from '@/db/paged'
import { FIELD } from '@/core/clean/standard-fields'
import { fold } from '@/core/clean/fold'
import { db, type Knex } from '@/db/connection'

/** Returns a query for live premises whose name, address, owner or kind holds every typed word. */
export function premisesSaying(typed: string) {
  const query = db()('premises').where({ state: 'live' })
  for (const word of fold(typed.slice(0, 200)).split(' ').filter(Boolean))
    query.whereRaw(`(name_key || ' ' || lower(concat_ws(' ', street, town, postcode, owner, kind))) like ?`, [`%${word}%`])
  return query
}

/** Returns all columns of premises. */
export async function premisesRow(trx: Knex, id: number) {
  return await trx('premises').where({ id }).first()
}

/** Who owns some premises, and where they live, in the order in which they came in. */
export async function ownersOf(trx: Knex, ids: number[]) {
  const part = (field: number) => trx.raw(`nullif(btrim(details ->> ?), '')`, [String(field)])
  return await trx('premises')
    .whereRaw('id = any(?::bigint[])', [ids])
    .where({ state: 'live' })
    .orderBy('id')
    .select('owner', 'owner_kind', {
      street: part(FIELD.ownerStreet),
      town: part(FIELD.ownerTown),
      county: part(FIELD.ownerCounty),
      postcode: part(FIELD.ownerPostcode),
    })
}

/** Returns the names of premises with street and town in place of an organisation. */
export async function premisesNames(trx: Knex, ids: number[]) {
  return await trx('premises').whereIn('id', ids).select('id', 'name', trx.raw(`nullif(concat_ws(', ', street, town), '') as organisation`))
}

/** Locks premises and returns all columns. */
export async function lockPremises(trx: Knex, id: number) {
  return await trx('premises').where({ id }).forUpdate().first()
}

const ORDER = { name: 'name_key, id', town: 'town nulls last, name_key, id', 'roof area': 'roof_area desc nulls last, name_key, id' }

/** Premises whose name, kind, address or owner says what was typed. */
export const premisesPage = (trx: Knex, typed: string, sort: keyof typeof ORDER, page: { offset: number; limit: number }) =>
  paged(trx, premisesSaying(typed), page, (query) => query.orderByRaw(ORDER[sort] ?? ORDER.name))

/** The ids of all that are found so, so many at most. */
export async function premisesIdsSaying(typed: string, most: number): Promise<number[]> {
  return (await premisesSaying(typed).orderBy('id').limit(most).select('id')).map((row) => row.id)
}

import type { Knex } from '@/db/connection'

/** Returns the names and places of organisations or premises, with what kind each is. */
export async function recordsWithPlace(trx: Knex, table: string, ids: number[], subject: string) {
  return await trx(table)
    .whereIn('id', ids)
    .select('id', 'name', 'street', 'town', 'postcode', subject === 'organisation' ? 'industry as kind' : 'kind')
}

/** Returns all columns of an organisation or of premises. */
export async function recordRow(trx: Knex, subject: string, id: number) {
  return await trx(subject === 'organisation' ? 'organisation' : 'premises')
    .where({ id })
    .first()
}

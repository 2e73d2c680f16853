import type { Knex } from '@/db/connection'

export async function recordsWithPlace(trx: Knex, table: string, ids: number[], subject: string) {
  return await trx(table)
    .whereIn('id', ids)
    .select('id', 'name', 'street', 'town', 'postcode', subject === 'organisation' ? 'industry as kind' : 'kind')
}

export async function recordRow(trx: Knex, subject: string, id: number) {
  return await trx(subject === 'organisation' ? 'organisation' : 'premises')
    .where({ id })
    .first()
}

import { organisationKey } from '@/core/clean/organisation'
import { db, type Knex } from '@/db/connection'

export function organisationsSaying(typed: string) {
  const query = db()('organisation as o').where('o.live', true)
  for (const word of organisationKey(typed.slice(0, 200)).split(' ').filter(Boolean)) query.where('o.name_key', 'like', `%${word}%`)
  return query
}

export async function organisationKeyed(trx: Knex, id: number) {
  return await trx('organisation').where({ id: id }).first('id', 'name', 'name_key')
}

export async function organisationName(trx: Knex, id: number) {
  return await trx('organisation').where({ id }).first('name')
}

export async function organisationRow(trx: Knex, id: number) {
  return await trx('organisation').where({ id }).first()
}

export async function countPeople(trx: Knex, id: number) {
  return await trx('person').where({ organisation_id: id, state: 'live' }).select(trx.raw('count(*)::int as all'))
}

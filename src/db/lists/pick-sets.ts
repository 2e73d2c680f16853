import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

export async function countLive(
  trx: Knex,
  subject: string,
  ids: number[],
  live: { live: boolean; state?: undefined } | { state: string; live?: undefined },
) {
  return await trx(subject).whereRaw('id = any(?::bigint[])', [ids]).where(live).count('id as n').first()
}

export async function pickSets(trx: Knex, readable: Set<number>) {
  return await trx('pick_set')
    .whereIn('id', [...readable])
    .select('id', 'people')
}

export async function insertPickSet(trx: Knex, people: number[], actorId: string) {
  return await trx('pick_set').insert({ people, made_by: actorId, made_at: now() }, 'id')
}

export async function firstNames(trx: Knex, listSubject: string, ids: number[]) {
  return await trx(listSubject)
    .whereRaw('id = any(?::bigint[])', [ids.slice(0, 2)])
    .orderBy('id')
    .select('name')
}

export async function peopleOfSet(trx: Knex, lastSetId: number) {
  return await trx('pick_set').where({ id: lastSetId }).first('people')
}

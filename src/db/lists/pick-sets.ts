import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'

/** Returns how many of these ids are live records. */
export async function countLive(
  trx: Knex,
  subject: string,
  ids: number[],
  live: { live: boolean; state?: undefined } | { state: string; live?: undefined },
) {
  return await trx(subject).whereRaw('id = any(?::bigint[])', [ids]).where(live).count('id as n').first()
}

/** Returns the records of sets that were picked by hand. */
export async function pickSets(trx: Knex, readable: Set<number>) {
  return await trx('pick_set')
    .whereIn('id', [...readable])
    .select('id', 'people')
}

/** Inserts a set of records that were picked by hand, and returns its id. A set never changes. */
export async function insertPickSet(trx: Knex, people: number[], actorId: string) {
  return await trx('pick_set').insert({ people, made_by: actorId, made_at: now() }, 'id')
}

/** Returns the names of the first two of these records, for the words of a line. */
export async function firstNames(trx: Knex, subject: string, ids: number[]) {
  return await trx(subject)
    .whereRaw('id = any(?::bigint[])', [ids.slice(0, 2)])
    .orderBy('id')
    .select('name')
}

/** Returns the records of a set that was picked by hand. */
export async function peopleOfSet(trx: Knex, id: number) {
  return await trx('pick_set').where({ id }).first('people')
}

import type { Knex } from '@/db/connection'

/** Points a merged person at the one who is kept. */
export async function updateMerged(trx: Knex, merge: number, keep: number) {
  return await trx('person').where({ id: merge }).update({ state: 'merged', merged_into: keep })
}

/** Points those who were merged into the merged person at the one who is kept, and returns their ids. */
export async function carryMerged(trx: Knex, merge: number, keep: number) {
  return await trx('person').where({ merged_into: merge }).update({ merged_into: keep }).returning('id')
}

/**
 * Moves the addresses of a merged person to the one who is kept, behind theirs, and returns them. A key that is there already stays
 * behind.
 */
export async function moveAddresses(trx: Knex, keep: number, merge: number) {
  const { rows } = await trx.raw(
    `update address a set person_id = ?, position = a.position + (select coalesce(max(position), 0) + 1 from address where person_id = ?)
     where a.person_id = ? and a.channel <> 'post' and not exists (select 1 from address o where o.person_id = ? and o.channel = a.channel and o.key = a.key) returning a.id, a.channel, a.value`,
    [keep, keep, merge, keep],
  )
  return rows
}

/** Records a merge with everything it moved, so that it can be taken back. */
export async function insertMerge(
  trx: Knex,
  {
    taken,
    addresses,
    carried,
    keep,
    merge,
    at,
    actorId,
  }: { taken: string; addresses: number[]; carried: number[]; keep: number; merge: number; at: Date; actorId: string },
) {
  return await trx('merge').insert({
    keep_id: keep,
    merged_id: merge,
    at,
    actor_id: actorId,
    taken: taken,
    addresses: addresses,
    carried: carried,
  })
}

/** Computes the facts of both people again (last contact and the like). */
export async function refigure(trx: Knex, keep: number, merge: number) {
  return await trx.raw('select refigure(array[?::bigint, ?::bigint])', [keep, merge])
}

/** Locks the merge of a person that was not taken back; undefined where there is none. */
export async function lockMerge(trx: Knex, merged: number) {
  return await trx('merge').where({ merged_id: merged, back_at: null }).forUpdate().first()
}

/** Locks both people of a pair, by id, so that two merges never wait for each other. */
export async function lockPair(trx: Knex, keep: number, merged: number) {
  return await trx('person').whereIn('id', [keep, merged]).orderBy('id').forNoKeyUpdate().select('id')
}

/** Makes a merged person a record of its own again. */
export async function updateLive(trx: Knex, merged: number) {
  return await trx('person').where({ id: merged }).update({ state: 'live', merged_into: null })
}

/** Points those who came along with a merge back at the merged person. */
export async function carryBack(trx: Knex, carried: number[], keep: number, merged: number) {
  return await trx('person').whereIn('id', carried).where({ merged_into: keep }).update({ merged_into: merged })
}

/** Moves addresses that a merge moved back, unless they belong to somebody else by now, and returns them. */
export async function moveAddressesBack(trx: Knex, addresses: number[], keep: number, merged: number) {
  return await trx('address')
    .whereIn('id', addresses)
    .where({ person_id: keep })
    .update({ person_id: merged })
    .returning(['channel', 'value'])
}

/** Marks a merge as taken back, by whom and when. */
export async function updateTakenBack(trx: Knex, merge: { id: number }, at: Date, actorId: string) {
  return await trx('merge').where({ id: merge.id }).update({ back_at: at, back_by: actorId })
}

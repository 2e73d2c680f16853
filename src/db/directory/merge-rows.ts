import type { Knex } from '@/db/connection'

export async function updateMerged(trx: Knex, merge: number, keep: number) {
  return await trx('person').where({ id: merge }).update({ state: 'merged', merged_into: keep })
}

export async function carryMerged(trx: Knex, merge: number, keep: number) {
  return await trx('person').where({ merged_into: merge }).update({ merged_into: keep }).returning('id')
}

export async function moveAddresses(trx: Knex, keep: number, merge: number) {
  const { rows } = await trx.raw(
    `update address a set person_id = ?, position = a.position + (select coalesce(max(position), 0) + 1 from address where person_id = ?)
     where a.person_id = ? and a.channel <> 'post' and not exists (select 1 from address o where o.person_id = ? and o.channel = a.channel and o.key = a.key) returning a.id, a.channel, a.value`,
    [keep, keep, merge, keep],
  )
  return rows
}

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

export async function refigure(trx: Knex, keep: number, merge: number) {
  return await trx.raw('select refigure(array[?::bigint, ?::bigint])', [keep, merge])
}

export async function lockMerge(trx: Knex, merged: number) {
  return await trx('merge').where({ merged_id: merged, back_at: null }).forUpdate().first()
}

export async function lockPair(trx: Knex, keep: number, merged: number) {
  return await trx('person').whereIn('id', [keep, merged]).orderBy('id').forNoKeyUpdate().select('id')
}

export async function updateLive(trx: Knex, merged: number) {
  return await trx('person').where({ id: merged }).update({ state: 'live', merged_into: null })
}

export async function carryBack(trx: Knex, carried: number[], keep: number, merged: number) {
  return await trx('person').whereIn('id', carried).where({ merged_into: keep }).update({ merged_into: merged })
}

export async function moveAddressesBack(trx: Knex, addresses: number[], keep: number, merged: number) {
  return await trx('address')
    .whereIn('id', addresses)
    .where({ person_id: keep })
    .update({ person_id: merged })
    .returning(['channel', 'value'])
}

export async function updateTakenBack(trx: Knex, merge: { id: number }, at: Date, actorId: string) {
  return await trx('merge').where({ id: merge.id }).update({ back_at: at, back_by: actorId })
}

import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import type { AreaShape } from '@/core/areas/shape'

export async function areaOwners(trx: Knex, areas: number[]) {
  return await trx('area').whereIn('id', areas).select('id', 'shared', 'owner_id', 'named')
}

export async function namedAreas(trx: Knex, actorId: string) {
  return await trx('area as a')
    .leftJoin('user as u', 'u.id', 'a.owner_id')
    .where({ 'a.named': true })
    .whereNull('a.put_away_at')
    .where((some) => some.where('a.shared', true).orWhere('a.owner_id', actorId))
    .whereNotExists(trx('area as n').whereRaw('n.replaces_id = a.id and n.put_away_at is null'))
    .orderBy('a.name')
    .select('a.id', 'a.name', 'a.shape', 'a.shared', 'a.owner_id', 'u.name as owner', 'a.created_at')
}

export const areaShapes = (trx: Knex, readableParts: Set<number>) =>
  trx('area')
    .whereIn('id', [...readableParts])
    .select('id', 'name', 'shape')

export async function areaOwner(trx: Knex, askedReplaces: number) {
  return await trx('area').where({ id: askedReplaces }).first('owner_id')
}

export async function insertArea(
  trx: Knex,
  {
    name,
    shape,
    askedShared,
    askedNamed,
    askedReplaces,
    actorId,
  }: {
    name: string
    shape: AreaShape
    askedShared: boolean
    askedNamed: boolean
    askedReplaces: number | null | undefined
    actorId: string
  },
) {
  return await trx('area').insert(
    {
      name,
      shape: JSON.stringify(shape),
      shared: askedShared,
      named: askedNamed,
      replaces_id: askedReplaces ?? null,
      owner_id: actorId,
      created_at: now(),
    },
    ['id', 'name'],
  )
}

export async function archiveArea(trx: Knex, id: number, actorId: string, away: boolean) {
  return await trx('area')
    .where({ id, owner_id: actorId })
    .update({ put_away_at: away ? now() : null })
}

export async function passAreasOn(trx: Knex, whoId: string, actorId: string) {
  return await trx('area').where({ owner_id: whoId }).update({ owner_id: actorId })
}

import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import type { AreaShape } from '@/core/areas/shape'

/** Returns who owns areas, whether each is shared, and whether it has a name. */
export async function areaOwners(trx: Knex, areas: number[]) {
  return await trx('area').whereIn('id', areas).select('id', 'shared', 'owner_id', 'named')
}

/** Returns the named areas that the reader may use, without those that a newer one replaces. */
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

/** Returns a query for the shapes of areas. */
export const areaShapes = (trx: Knex, ids: Set<number>) =>
  trx('area')
    .whereIn('id', [...ids])
    .select('id', 'name', 'shape')

/** Returns who owns an area. */
export async function areaOwner(trx: Knex, id: number) {
  return await trx('area').where({ id }).first('owner_id')
}

/** Inserts an area and returns its id. An edited area is a new one that replaces the one before, so that old editions keep theirs. */
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

/** Archives an area of one's own, or brings it back. */
export async function archiveArea(trx: Knex, id: number, actorId: string, away: boolean) {
  return await trx('area')
    .where({ id, owner_id: actorId })
    .update({ put_away_at: away ? now() : null })
}

/** Hands the areas of a colleague who left over to another. */
export async function passAreasOn(trx: Knex, whoId: string, actorId: string) {
  return await trx('area').where({ owner_id: whoId }).update({ owner_id: actorId })
}

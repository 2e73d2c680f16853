import type { AreaShape } from '@/core/areas/shape'
import type { AreaView } from '@/core/views/list-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { readableParts } from './line-parts'
import { mapSetting } from '@/db/team/settings'
import { areaShapes, namedAreas } from '@/db/lists/areas'

/** Areas this person may name: those with a name that nobody drew anew since, shared or their own. */
export async function listAreas(actor: Actor): Promise<AreaView[]> {
  const rows = await namedAreas(db(), actor.id)
  return rows.map((a) => ({
    id: a.id,
    name: a.name,
    shape: a.shape,
    shared: a.shared,
    mine: a.owner_id === actor.id,
    owner: a.owner ?? '',
    at: a.created_at.toISOString(),
  }))
}

/** The shapes of some areas, whether they have a name or were drawn for a line alone. */
export async function areasOf(actor: Actor, ids: number[]): Promise<{ id: number; name: string; shape: AreaShape }[]> {
  return areaShapes(db(), await readableParts(actor, 'area', ids))
}

/** The map the team works over, as GeoJSON; nothing where none was given. */
export async function baseMap(_actor: Actor): Promise<string> {
  const row = await mapSetting(db())
  return row?.value ?? '{"type":"FeatureCollection","features":[]}'
}

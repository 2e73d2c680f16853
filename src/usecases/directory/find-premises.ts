import type { PremisesView } from '@/core/views/record-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { PAGE } from '@/usecases/lists/list-account'
import { premisesIdsSaying, premisesPage } from '@/db/directory/premises-rows'
import { viewOf } from './premises'

/** The ids of all premises found, so many at most. */
export async function premisesIdsFound(_actor: Actor, typed: string, most: number): Promise<number[]> {
  return premisesIdsSaying(typed, most)
}

/** Premises whose name, street, town, owner or kind says every word that was typed. */
export async function findPremises(
  _actor: Actor,
  typed: string,
  sort: 'name' | 'town' | 'roof area' = 'name',
  offset = 0,
): Promise<{ total: number; premises: PremisesView[] }> {
  const { total, rows } = await premisesPage(db(), typed, sort, { offset, limit: PAGE })
  return { total, premises: rows.map(viewOf) }
}

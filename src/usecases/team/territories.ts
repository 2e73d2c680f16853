import { db } from '@/db/connection'
import { type TerritoryRow, territoryRows } from '@/db/team/territory-rows'
import type { Actor } from './actor'

/** The territories of the team. */
export const territories = async (_: Actor): Promise<TerritoryRow[]> => territoryRows(db())

import { db } from '@/db/connection'
import type { Actor } from './actor'

/** Towns that stand in the directory, the most common first, to choose from while a line is written. */
export async function knownTowns(_actor: Actor): Promise<string[]> {
  const rows = await db()('person').whereNotNull('town').where({ state: 'live' }).groupBy('town').orderByRaw('count(*) desc').limit(40).select('town')
  return rows.map((row) => row.town)
}

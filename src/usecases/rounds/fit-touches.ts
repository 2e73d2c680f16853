import type { Touched } from '@/core/views/fit-views'
import { db } from '@/db/connection'
import { openRoundsOf, otherStandings } from '@/db/rounds/fit-rows'
import { unpackIds } from '@/engine/packed-ids'
import type { Actor } from '@/usecases/team/actor'

/**
 * Where somebody who is known to us stands besides a list, as far as whoever asks may see it: on which other lists, as these stood when changes
 * were last told, and in which open rounds of others they are still to be contacted.
 */
export async function touchedBy(actor: Actor, list: number, person: number): Promise<Touched> {
  const lists = (await otherStandings(db(), list, actor.id)).filter(({ members }) => unpackIds(members).includes(person))
  return { lists: lists.map(({ id, name }) => ({ id, name })), rounds: await openRoundsOf(db(), list, person, actor.id) }
}

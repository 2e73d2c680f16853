import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { archiveArea } from '@/db/lists/areas'

/** Puts an area away: it is offered no more, and lines that name it go on with it. */
export async function putAreaAway(actor: Actor, id: number, away: boolean): Promise<void> {
  const changed = await archiveArea(db(), id, actor.id, away)
  if (changed === 0) throw new Refused('There is no such area of yours.', 'not found')
}

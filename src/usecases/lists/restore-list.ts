import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { unmarkDeleted } from '@/db/lists/list-rows'

/** Brings back a list its owner deleted. Returns its name. */
export async function restoreList(actor: Actor, id: number): Promise<string> {
  const [list] = await unmarkDeleted(db(), id, actor.id)
  if (!list) throw new Refused('There is no deleted list of yours to bring back.', 'not found')
  return list.name
}

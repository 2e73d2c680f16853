import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { reopen } from '@/db/directory/likenesses'

/** Takes back that two records are two: they are asked about again. */
export async function reopenPair(actor: Actor, a: number, b: number): Promise<void> {
  mustCoordinate(actor, 'Deciding about duplicates')
  const changed = await reopen(db(), a, b)
  if (changed === 0) throw new Refused('These two records were not marked as different.')
}

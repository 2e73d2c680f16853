import type { PairView } from '@/core/views/record-views'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { pairRow } from '@/db/directory/likenesses'
import { agreesOf, sideOf } from './possible-duplicates'

/** Two records side by side, with how far they agree. */
export async function openPair(_actor: Actor, a: number, b: number): Promise<PairView> {
  const pair = await pairRow(db(), a, b)
  if (!pair) throw new Refused('These two records are not among the possible duplicates.', 'not found')
  const sides = await Promise.all([pair.a, pair.b].map((id: number) => sideOf(db(), id)))
  return {
    a: sides[0],
    b: sides[1],
    chance: pair.chance,
    decided: pair.decided,
    agrees: agreesOf(pair.agreement),
  }
}

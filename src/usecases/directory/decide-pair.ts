import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { mergeIn } from './merge-people'
import { lockPair, updateDecided } from '@/db/directory/likenesses'

/** Decides about a pair: one record, of which `keep` stays, or two. */
export async function decidePair(actor: Actor, a: number, b: number, decision: { same: number } | 'different'): Promise<void> {
  mustCoordinate(actor, 'Deciding about duplicates')
  const [low, high] = [Math.min(a, b), Math.max(a, b)]
  await db().transaction(async (trx) => {
    const pair = await lockPair(trx, low, high)
    if (!pair) throw new Refused('These two records are not among the possible duplicates.', 'not found')
    if (pair.decided !== null)
      throw new Refused(`A colleague decided about these two just now: they are ${pair.decided === 'same' ? 'one' : 'two'}.`)
    if (decision !== 'different') {
      if (decision.same !== a && decision.same !== b) throw new Refused('Choose which of the two records stays.')
      await mergeIn(trx, actor, decision.same, decision.same === a ? b : a)
    }
    await updateDecided(trx, low, high, decision, actor.id)
  })
}

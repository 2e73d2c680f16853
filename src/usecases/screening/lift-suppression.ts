import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { liftMany } from './lift-suppressions'
import { holdLifts } from '@/db/screening/liftings'
import { suppressionId } from '@/db/screening/suppression-rows'

/** Lifts a suppression by an entry that says why. What was suppressed and lifted both stay in the ledger. */
export async function liftSuppression(actor: Actor, id: number, word: string): Promise<void> {
  mustCoordinate(actor, 'Lifting a suppression')
  const reason = word.trim()
  if (reason === '') throw new Refused('Say who asked to lift it.')
  if (!Number.isSafeInteger(id)) throw new Refused('There is no such suppression.', 'not found')
  await db().transaction(async (trx) => {
    await holdLifts(trx)
    const suppression = await suppressionId(trx, id)
    if (!suppression) throw new Refused('There is no such suppression.', 'not found')
    await liftMany(trx, actor, [id], { word: reason })
  })
}

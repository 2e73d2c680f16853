import type { Outcome } from '@/core/checks/plan'
import { db } from '@/db/connection'
import { updateEnded } from '@/db/rounds/fit-rows'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate } from '@/usecases/team/actor'
import { tallyOf } from './fit-tally'
import { openCheck } from './judge-fit'

/** Ends a fit check with what it has come to. What was said of people stays with them. */
export async function endFitCheck(actor: Actor, id: number): Promise<Outcome> {
  mustCoordinate(actor, 'Ending a check')
  return db().transaction(async (trx) => {
    const check = await openCheck(trx, actor, id)
    const { outcome } = await tallyOf(trx, check)
    await updateEnded(trx, check.id, now(), actor.id, outcome)
    return outcome
  })
}

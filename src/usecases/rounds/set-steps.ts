import { ValidationError } from 'yup'
import { type Steps, stepsMeant } from '@/core/rounds/steps'
import { db } from '@/db/connection'
import { updateSteps } from '@/db/rounds/round-rows'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from './rounds'

/** Says when each channel of a round that is being built is worked; no later step at all is everything at once. */
export async function setSteps(actor: Actor, id: number, raw: unknown): Promise<void> {
  mustCoordinate(actor, 'Planning the steps of a round')
  const steps = meant(raw)
  await db().transaction(async (trx) => {
    const { round } = await roundFor(actor, id, trx, true)
    if (round.released_at) throw new Refused('The round is released: its steps are frozen.')
    await updateSteps(trx, id, Object.keys(steps).length === 0 ? null : steps)
  })
}

function meant(raw: unknown): Steps {
  try {
    return stepsMeant(raw)
  } catch (error) {
    if (error instanceof ValidationError || error instanceof RangeError) throw new Refused(`The steps were not saved. ${error.message}`)
    throw error
  }
}

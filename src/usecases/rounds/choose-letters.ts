import { letterChoice } from '@/core/rounds/letter-choice'
import { db } from '@/db/connection'
import { updateChoice } from '@/db/rounds/premises-round-rows'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { premisesRoundFor } from './premises-rounds'

/** Says to whom the letters of a round of premises go, how they are addressed, and who gets none. */
export async function chooseLetters(actor: Actor, id: number, raw: unknown): Promise<void> {
  mustCoordinate(actor, 'Changing to whom letters go')
  const choice = letterChoice(raw)
  await db().transaction(async (trx) => {
    const { round } = await premisesRoundFor(actor, id, trx, true)
    if (round.released_at) throw new Refused('The round is released, so its letters stay as they are.')
    await updateChoice(trx, id, choice)
  })
}

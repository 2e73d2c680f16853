import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { updateRules } from '@/db/rounds/round-rows'
import { roundFor, rulesMeant } from './rounds'

/** Changes the rules of a round that is being built. */
export async function setRules(actor: Actor, id: number, rules: unknown): Promise<void> {
  mustCoordinate(actor, 'Changing the rules of a round')
  const checked = rulesMeant(rules)
  await db().transaction(async (trx) => {
    const { round } = await roundFor(actor, id, trx, true)
    if (round.released_at) throw new Refused('The round is released: its rules are frozen.')
    await updateRules(trx, id, checked)
  })
}

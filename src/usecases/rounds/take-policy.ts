import { db } from '@/db/connection'
import { updateRules } from '@/db/rounds/round-rows'
import { insertRuleChange, newestEdition, policyOf } from '@/db/screening/policies'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from './rounds'

/** Gives a round that is being built the newest edition of its list's policy; what was changed for this round alone goes with the rules before. */
export async function takePolicy(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Changing the rules of a round')
  await db().transaction(async (trx) => {
    const { round, list } = await roundFor(actor, id, trx, true)
    if (round.released_at) throw new Refused('The round is released: its rules are frozen.')
    const policy = await policyOf(trx, list)
    const edition = await newestEdition(trx, policy.id)
    await insertRuleChange(trx, {
      round: id,
      at: now(),
      actor: actor.id,
      why: `took edition ${edition.number} of ${policy.name}`,
      before: round.rules,
      after: edition.rules,
    })
    await updateRules(trx, id, edition.rules, edition.id)
  })
}

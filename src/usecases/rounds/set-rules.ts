import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { ruleDifferences, withoutFile } from '@/core/screening/differences'
import { updateRules } from '@/db/rounds/round-rows'
import { insertRuleChange } from '@/db/screening/policies'
import { now } from '@/runtime/clock'
import { roundFor, rulesMeant } from './rounds'

/** Changes the rules of a round that is being built, for this round alone; who did it and why is kept with the round. */
export async function setRules(actor: Actor, id: number, rules: unknown, why = ''): Promise<void> {
  mustCoordinate(actor, 'Changing the rules of a round')
  const checked = rulesMeant(rules).map(withoutFile)
  await db().transaction(async (trx) => {
    const { round } = await roundFor(actor, id, trx, true)
    if (round.released_at) throw new Refused('The round is released: its rules are frozen.')
    if (ruleDifferences(round.rules, checked).length === 0) return
    const said = why.trim().slice(0, 400)
    await insertRuleChange(trx, {
      round: id,
      at: now(),
      actor: actor.id,
      why: said === '' ? null : said,
      before: round.rules,
      after: checked,
    })
    await updateRules(trx, id, checked)
  })
}

import { ruleDifferences } from '@/core/screening/differences'
import { db } from '@/db/connection'
import { insertPolicyEdition, newestEdition } from '@/db/screening/policies'
import { nameOf } from '@/db/team/colleagues'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { policyFor, policyRules } from './policy-for'

/**
 * Saves rules as the next edition of a policy; gives its number. `basedOn` is the edition they were worked on from: where somebody
 * saved another one since, nothing is written. Rounds that are being built keep the edition they began with.
 */
export async function savePolicy(actor: Actor, id: number, basedOn: number, rules: unknown, why: string): Promise<number> {
  mustCoordinate(actor, 'Changing a policy')
  const checked = policyRules(rules)
  return db().transaction(async (trx) => {
    const policy = await policyFor(id, trx, true)
    if (policy.archived_at) throw new Refused('This policy is archived. Bring it back first.')
    const newest = await newestEdition(trx, id)
    if (newest.number !== basedOn) {
      const by = await nameOf(trx, newest.saved_by)
      throw new Refused(
        `${by?.name ?? 'Somebody'} saved edition ${newest.number} of this policy meanwhile. Nothing was saved. Your changes are still here: load the page again to see theirs.`,
      )
    }
    if (ruleDifferences(newest.rules, checked).length === 0) throw new Refused('Nothing was changed, so there is nothing to save.')
    await insertPolicyEdition(trx, {
      policy: id,
      number: newest.number + 1,
      rules: checked,
      why: why.trim() === '' ? null : why.trim().slice(0, 400),
      by: actor.id,
      at: now(),
    })
    return newest.number + 1
  })
}

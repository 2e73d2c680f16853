import { db } from '@/db/connection'
import { insertPolicy, insertPolicyEdition, newestEdition, policyNamed } from '@/db/screening/policies'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { policyFor, policyName } from './policy-for'

/** Makes a policy with the rules of another; gives its id. */
export async function createPolicy(actor: Actor, name: string, like: number): Promise<number> {
  mustCoordinate(actor, 'Making a policy')
  const named = policyName(name)
  return db().transaction(async (trx) => {
    const other = await policyFor(like, trx, true)
    if (await policyNamed(trx, named)) throw new Refused(`There is a policy called “${named}” already. Choose another name.`)
    const { rules } = await newestEdition(trx, other.id)
    const at = now()
    const id = await insertPolicy(trx, { name: named, by: actor.id, at })
    await insertPolicyEdition(trx, { policy: id, number: 1, rules, why: `copied from ${other.name}`, by: actor.id, at })
    return id
  })
}

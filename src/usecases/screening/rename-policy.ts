import { db } from '@/db/connection'
import { policyNamed, renamePolicyRow } from '@/db/screening/policies'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { policyFor, policyName } from './policy-for'

/** Gives a policy another name. */
export async function renamePolicy(actor: Actor, id: number, name: string): Promise<void> {
  mustCoordinate(actor, 'Renaming a policy')
  const named = policyName(name)
  await db().transaction(async (trx) => {
    await policyFor(id, trx, true)
    if (await policyNamed(trx, named, id)) throw new Refused(`There is a policy called “${named}” already. Choose another name.`)
    await renamePolicyRow(trx, id, named)
  })
}

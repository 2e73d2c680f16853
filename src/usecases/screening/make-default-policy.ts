import { db } from '@/db/connection'
import { takeDefault } from '@/db/locks'
import { setDefault } from '@/db/screening/policies'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { policyFor } from './policy-for'

/** Makes a policy the one of every list that has chosen none. */
export async function makeDefaultPolicy(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Choosing the team’s policy')
  await db().transaction(async (trx) => {
    await takeDefault(trx)
    const policy = await policyFor(id, trx, true)
    if (policy.archived_at) throw new Refused('This policy is archived. Bring it back first.')
    await setDefault(trx, id)
  })
}

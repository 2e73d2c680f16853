import { db } from '@/db/connection'
import { setPolicyOfList } from '@/db/screening/policies'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import { policyFor } from './policy-for'

/** Chooses the policy a list is screened by from its next round on; null for the team's. */
export async function choosePolicy(actor: Actor, list: number, policy: number | null): Promise<void> {
  mustCoordinate(actor, 'Choosing the policy of a list')
  await db().transaction(async (trx) => {
    const { subject } = await listFor(actor, list, 'edit', trx, true)
    if (subject !== 'person') throw new Refused('Rounds go to people, so only a list of people is screened by a policy.')
    // The lock keeps the policy from being archived while the list takes it.
    if (policy !== null && (await policyFor(policy, trx, true)).archived_at)
      throw new Refused('This policy is archived. Bring it back first.')
    await setPolicyOfList(trx, list, policy)
  })
}

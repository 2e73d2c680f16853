import { db } from '@/db/connection'
import { archivePolicyRow, listsByPolicy, policyNamed } from '@/db/screening/policies'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { policyFor } from './policy-for'

/** Puts a policy away that no list goes by, or brings it back. Rounds that froze an edition of it keep it. */
export async function archivePolicy(actor: Actor, id: number, archived: boolean): Promise<void> {
  mustCoordinate(actor, 'Archiving a policy')
  await db().transaction(async (trx) => {
    const policy = await policyFor(id, trx, true)
    if (!archived) {
      if (await policyNamed(trx, policy.name, id))
        throw new Refused(`Another policy is called “${policy.name}” now. Rename that one first.`)
      return archivePolicyRow(trx, id, null)
    }
    if (policy.is_default) throw new Refused('This is the team’s policy. Make another one the team’s first.')
    const lists = await listsByPolicy(trx, id)
    if (lists.length > 0)
      throw new Refused(
        `${lists.length} ${lists.length === 1 ? 'list goes' : 'lists go'} by this policy. Choose another one for them first.`,
      )
    await archivePolicyRow(trx, id, now())
  })
}

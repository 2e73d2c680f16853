import { allows } from '@/core/records/list-roles'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { tellTalk } from '@/db/team/news'
import { lockOpenComments, settleRows } from '@/db/lists/line-comments'

/** Settles what was said of a line so far: for those who may edit the list, and for who said all of it. */
export async function settleComments(actor: Actor, id: number, line: string): Promise<void> {
  const list = await listFor(actor, id)
  await db().transaction(async (trx) => {
    const open = await lockOpenComments(trx, id, line)
    if (!allows(list.role, 'edit') && open.some((c) => c.said_by !== actor.id))
      throw new Refused('Only people who may edit the list can settle comments by others.', 'not allowed')
    await settleRows(
      trx,
      open.map((c) => c.id),
      actor.id,
    )
    await tellTalk(trx, id)
  })
}

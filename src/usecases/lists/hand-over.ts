import { db } from '@/db/connection'
import { holdNames } from '@/db/locks'
import { type Actor, Refused } from '@/usecases/team/actor'
import { ownList } from './own-list'
import { checkSharing } from './named-lists'
import { latestEdition, updateOwner } from '@/db/lists/list-rows'
import { tellTalk } from '@/db/team/news'
import { deleteMember, insertEditor } from '@/db/lists/list-members'
import { holdColleague } from '@/db/team/colleagues'

/** Hands a list over to somebody else, who owns it from then on. Whoever had it may still edit it. */
export async function handOver(actor: Actor, id: number, to: string): Promise<void> {
  await db().transaction(async (trx) => {
    await ownList(actor, id, 'hand it over', trx, true)
    await holdNames(trx)
    const next = await holdColleague(trx, to)
    if (!next || next.id === actor.id) throw new Refused('Choose the colleague who gets the list.')
    await updateOwner(trx, id, next)
    await deleteMember(trx, id, next)
    await insertEditor(trx, id, actor.id)
    await checkSharing(actor, id, (await latestEdition(id, trx)).lines, trx)
    await tellTalk(trx, id)
  })
}

import { letGoOf } from '@/db/changes/act-rows'
import { endIntroductionsOf } from '@/db/contact/tie-rows'
import { passTasksOn } from '@/db/team/task-rows'
import { now } from '@/runtime/clock'
import { holdNames } from '@/db/locks'
import { type Actor, Refused } from './actor'
import { deleteAccount, deleteSessions, markLeft } from '@/db/team/colleagues'
import { countListsOf, lockListsOf, passListsOn } from '@/db/lists/list-rows'
import { passAreasOn } from '@/db/lists/areas'
import { deleteMembershipsInListsOf, deleteMembershipsOf } from '@/db/lists/list-members'
import { colleague, mustKeepManager, mustManage, taken } from './team'

/**
 * Removes somebody from the team: they are signed out at once and sign in no more, and their lists, areas and tasks go to whoever
 * removes them, lists shared as they were; changes they took are anybody's again. What they did stays under their name. Gives how many lists came along.
 */
export async function removeColleague(actor: Actor, id: string): Promise<{ lists: number }> {
  mustManage(actor)
  return taken(async (trx) => {
    const who = await colleague(trx, id)
    if (who.id === actor.id) throw new Refused('You cannot remove yourself. Ask another manager.')
    if (who.post === 'manager') await mustKeepManager(trx, who.id)
    await lockListsOf(trx, who.id)
    await holdNames(trx)
    await markLeft(trx, who.id)
    await deleteAccount(trx, who.id)
    await deleteSessions(trx, who.id)
    await deleteMembershipsOf(trx, who.id)
    await deleteMembershipsInListsOf(trx, actor.id, who.id)
    await passAreasOn(trx, who.id, actor.id)
    await passTasksOn(trx, who.id, actor.id, now())
    await letGoOf(trx, who.id, actor.id, now())
    await endIntroductionsOf(trx, who.id, now())
    const lists = await countListsOf(trx, who.id)
    await passListsOn(trx, who.id, actor.id)
    return { lists: Number(lists?.n ?? 0) }
  })
}

import type { Actor } from './actor'
import { updateColleague } from '@/db/team/colleagues'
import { checked, colleague, mustBeFree, mustKeepManager, mustManage, taken } from './team'

/** Gives somebody another name, email address or post; the post counts from their next request on. */
export async function changeColleague(actor: Actor, id: string, asked: unknown): Promise<void> {
  mustManage(actor)
  const given = checked(asked)
  await taken(async (trx) => {
    const before = await colleague(trx, id)
    await mustBeFree(trx, given.email, before.id)
    if (before.post === 'manager' && given.post !== 'manager') await mustKeepManager(trx, before.id)
    await updateColleague(trx, before.id, given)
  })
}

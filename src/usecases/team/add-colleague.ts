import { addMember } from '@/db/team/first-member'
import type { Actor } from './actor'
import { checked, madeUp, mustBeFree, mustManage, taken } from './team'

/** Adds somebody to the team; gives the password they sign in with, which is shown once and kept nowhere. */
export async function addColleague(actor: Actor, asked: unknown): Promise<{ id: string; password: string }> {
  mustManage(actor)
  const given = checked(asked)
  const password = madeUp()
  return taken(async (trx) => {
    await mustBeFree(trx, given.email, '')
    return { id: await addMember(trx, { ...given, password }), password }
  })
}

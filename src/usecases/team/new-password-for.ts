import { hashPassword } from 'better-auth/crypto'
import { type Actor, Refused } from './actor'
import { deleteSessions, updatePassword } from '@/db/team/colleagues'
import { colleague, madeUp, mustManage, taken } from './team'

/** Gives somebody a new password, which is shown once, and ends their sessions. */
export async function newPasswordFor(actor: Actor, id: string): Promise<{ password: string }> {
  mustManage(actor)
  const password = madeUp()
  const hash = await hashPassword(password)
  await taken(async (trx) => {
    const who = await colleague(trx, id)
    if (who.id === actor.id) throw new Refused('To change your own password, enter your current one.')
    await updatePassword(trx, who.id, hash)
    await deleteSessions(trx, who.id)
  })
  return { password }
}

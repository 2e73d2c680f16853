import { hashPassword } from 'better-auth/crypto'
import { type Actor, Refused } from './actor'
import { insertAccount, lockLeft, unmarkLeft } from '@/db/team/colleagues'
import { madeUp, mustManage, taken } from './team'

/** Takes somebody who was removed back, as they were but for their lists; gives the password they sign in with, which is shown once. */
export async function takeBackColleague(actor: Actor, id: string): Promise<{ password: string }> {
  mustManage(actor)
  const password = madeUp()
  const hash = await hashPassword(password)
  await taken(async (trx) => {
    const left = await lockLeft(trx, id)
    if (!left) throw new Refused('This person was not removed.', 'not found')
    await unmarkLeft(trx, left)
    await insertAccount(trx, left, hash)
  })
  return { password }
}

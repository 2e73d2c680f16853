import { randomBytes } from 'node:crypto'
import type { Subject } from '@/core/records/subject'
import type { Line } from '@/core/lists/line'
import { LONGEST_NAME } from '@/core/lists/naming'
import { db } from '@/db/connection'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from '@/usecases/team/actor'
import { checkNames } from './named-lists'
import { balanceOf, insertEdition } from './save-edition'
import { validPage } from './signed-lines'
import { insertList } from '@/db/lists/list-rows'

/** Returns a name for a list without needless spaces. Refuses an empty or too long one. */
export function checkedName(name: string): string {
  const trimmed = name.trim().replace(/\s+/g, ' ')
  if (trimmed === '' || trimmed.length > LONGEST_NAME) throw new Refused(`Give the list a name of 1 to ${LONGEST_NAME} characters.`)
  return trimmed
}

/** A new list with its first edition: everyone in the directory, or some lines. */
export async function createList(actor: Actor, name: string, shared: boolean, lines: Line[] = [startLine()]): Promise<number> {
  const checked = validPage(lines)
  const zone = settings().ARCH_ZONE
  const balance = await balanceOf(actor, checked, zone)
  return db().transaction(async (trx) => {
    const [{ id }] = await insertList(trx, { name: checkedName(name), checked, actorId: actor.id, shared, zone })
    await checkNames(actor, id, checked, [], trx)
    await insertEdition(trx, actor, id, 1, checked, balance)
    return id
  })
}

/** Returns the first line of a new list: everyone of the subject. */
export const startLine = (subject: Subject = 'person'): Line => ({
  id: randomBytes(5).toString('hex'),
  verb: 'start',
  off: false,
  batch: null,
  ...(subject === 'person' ? {} : { subject }),
})

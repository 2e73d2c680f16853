import type { Actor } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { latestEdition } from '@/db/lists/list-rows'
import { db } from '@/db/connection'
import { openerWishes, writeOpenerWishes } from '@/db/rounds/opener-rows'
import { createList } from './create-list'

/** A copy of a list this person may see, as their own. */
export async function copyList(actor: Actor, id: number): Promise<number> {
  const list = await listFor(actor, id, 'use')
  const { lines } = await latestEdition(id)
  const copy = await createList(actor, `${list.name}, copy`.slice(0, 120), false, lines)
  const openers = await openerWishes(db(), id)
  if (openers.length > 0) await writeOpenerWishes(db(), copy, openers)
  return copy
}

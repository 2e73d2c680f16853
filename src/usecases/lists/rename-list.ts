import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { checkedName } from './create-list'
import { updateName } from '@/db/lists/list-rows'
import { ownList } from './own-list'

/** Renames a list of one's own. */
export async function renameList(actor: Actor, id: number, name: string): Promise<void> {
  const list = await ownList(actor, id, 'rename it')
  await updateName(db(), checkedName(name), list.id)
}

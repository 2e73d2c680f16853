import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { updateLabels } from '@/db/lists/list-rows'
import { ownList } from './own-list'

/** Files a list under some labels, which everybody who sees it sees. */
export async function labelList(actor: Actor, id: number, labels: readonly string[]): Promise<void> {
  const list = await ownList(actor, id, 'label it')
  const clean = [
    ...new Map(
      labels
        .map((label) => String(label).trim().replace(/\s+/g, ' '))
        .filter(Boolean)
        .map((label) => [label.toLowerCase(), label]),
    ).values(),
  ]
  if (clean.length > 12 || clean.some((label) => label.length > 40))
    throw new Refused('A list has at most twelve labels of at most 40 letters.')
  await updateLabels(db(), list.id, clean)
}

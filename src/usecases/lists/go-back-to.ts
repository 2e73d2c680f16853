import { type Actor, Refused } from '@/usecases/team/actor'
import { linesOfEdition, listFor } from './open-list'
import { latestEdition } from '@/db/lists/list-rows'
import { saveEdition } from './save-edition'

/** Saves the lines of an earlier edition as the newest one. Gives its number. */
export async function goBackTo(actor: Actor, id: number, number: number): Promise<number> {
  const lines = await linesOfEdition(id, number)
  const { number: newest } = await latestEdition((await listFor(actor, id, 'edit')).id)
  const saved = await saveEdition(actor, id, newest, lines, { why: `back to edition ${number}`, draft: 'stays' })
  if ('theirs' in saved)
    throw new Refused(`${saved.theirs.by} saved edition ${saved.theirs.edition} just now. Look at it first; nothing was changed.`)
  return saved.edition
}

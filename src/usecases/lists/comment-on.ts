import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { countText } from '@/core/text/written'
import { latestEdition } from '@/db/lists/list-rows'
import { tellTalk } from '@/db/team/news'
import { insertComment } from '@/db/lists/line-comments'

/** Longest comment, in characters. */
export const LONGEST = 1000

/** Says something of a line of the latest edition. Whoever sees the list may. */
export async function commentOn(actor: Actor, id: number, line: string, text: string): Promise<void> {
  await listFor(actor, id)
  const said = String(text).trim()
  if (said === '' || said.length > LONGEST) throw new Refused(`A comment has 1 to ${countText(LONGEST)} letters; this one was not kept.`)
  const { lines, number } = await latestEdition(id)
  const own = lines.find((l) => l.id === line)
  if (!own) throw new Refused('That line is not in the saved list. Save the list, or propose the line; then it can be commented on.')
  await db().transaction(async (trx) => {
    await insertComment(trx, { id, own, lines, number, said, actorId: actor.id })
    await tellTalk(trx, id)
  })
}

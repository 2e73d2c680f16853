import { allows } from '@/core/records/list-roles'
import type { LineComment } from '@/core/views/list-views'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { countText } from '@/core/text/written'
import { latestEdition } from '@/db/lists/list-rows'
import { tellTalk } from '@/db/team/news'
import { commentRows, insertComment, lockOpenComments, settleRows } from '@/db/lists/line-comments'

/** Longest comment, in characters. */
const LONGEST = 1000

/** What people said of the lines of a list, the oldest first; what was settled comes with it. */
export async function commentsOn(actor: Actor, id: number): Promise<LineComment[]> {
  await listFor(actor, id)
  const rows = await commentRows(db(), id)
  return rows.map((c) => ({
    id: c.id,
    line: c.line_id,
    of: c.line_text,
    edition: c.edition,
    text: c.text,
    by: c.by ?? 'Somebody who left',
    mine: c.said_by === actor.id,
    at: c.said_at.toISOString(),
    settled: c.settled_at ? { by: c.settled_name ?? '', at: c.settled_at.toISOString() } : null,
  }))
}

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

/** Settles what was said of a line so far: for those who may edit the list, and for who said all of it. */
export async function settleComments(actor: Actor, id: number, line: string): Promise<void> {
  const list = await listFor(actor, id)
  await db().transaction(async (trx) => {
    const open = await lockOpenComments(trx, id, line)
    if (!allows(list.role, 'edit') && open.some((c) => c.said_by !== actor.id))
      throw new Refused('Only those who may edit the list settle what others said of it.', 'not allowed')
    await settleRows(
      trx,
      open.map((c) => c.id),
      actor.id,
    )
    await tellTalk(trx, id)
  })
}

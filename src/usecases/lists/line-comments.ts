import type { LineComment } from '@/core/views/list-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { commentRows } from '@/db/lists/line-comments'

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

import type { Knex } from '@/db/connection'
import { type Line, lineText, subjectOf } from '@/core/lists/line'
import { now } from '@/runtime/clock'

/** Returns the comments on the lines of a list, oldest first, with who wrote and who settled each. */
export async function commentRows(trx: Knex, id: number) {
  return await trx('line_comment as c')
    .leftJoin('user as u', 'u.id', 'c.said_by')
    .leftJoin('user as s', 's.id', 'c.settled_by')
    .where({ list_id: id })
    .orderBy('c.id')
    .select('c.*', 'u.name as by', 's.name as settled_name')
}

/** Inserts a comment on a line, with the line's words as they stand now. */
export async function insertComment(
  trx: Knex,
  { id, own, lines, number, said, actorId }: { id: number; own: Line; lines: Line[]; number: number; said: string; actorId: string },
) {
  return await trx('line_comment').insert({
    list_id: id,
    line_id: own.id,
    line_text: lineText(own, subjectOf(lines)).slice(0, 500),
    edition: number,
    text: said,
    said_by: actorId,
    said_at: now(),
  })
}

/** Locks the open comments on a line and returns who wrote them. */
export async function lockOpenComments(trx: Knex, id: number, line: string) {
  return await trx('line_comment')
    .where({ list_id: id, line_id: String(line) })
    .whereNull('settled_at')
    .forUpdate()
    .select('id', 'said_by')
}

/** Settles comments. */
export async function settleRows(trx: Knex, open: number[], actorId: string) {
  return await trx('line_comment').whereIn('id', open).update({ settled_by: actorId, settled_at: now() })
}

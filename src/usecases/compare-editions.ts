import { lineText } from '@/core/lists/line'
import { compareLines } from '@/core/lists/compare'
import type { EditionsPage, EditionView, LineDifference } from '@/core/outputs/list-views'
import type { Line } from '@/core/lists/line'
import type { Subject } from '@/core/columns/subject'
import { db } from '@/db/connection'
import { askEngine } from '@/engine/client'
import type { Actor } from './actor'
import { PAGE, reasonsOf } from './list-account'
import { linesOfEdition, listFor } from './lists'
import { expanded, withLastRounds } from './named-lists'
import { recordsPage } from './records-page'
import { momentNow } from './screening-now'

/** Every edition of a list, the newest first. */
export async function editionIndex(actor: Actor, id: number): Promise<{ name: string; subject: Subject; editions: EditionView[] }> {
  const list = await listFor(actor, id)
  const rows = await db()('edition as e').leftJoin('user as u', 'u.id', 'e.saved_by').where({ list_id: id }).orderBy('number', 'desc').select('e.number', 'e.saved_at', 'e.balance', 'e.why', 'u.name as by', db().raw('jsonb_array_length(e.lines) as lines'))
  return { name: list.name, subject: list.subject, editions: rows.map((e) => ({ number: e.number, savedAt: e.saved_at.toISOString(), by: e.by ?? '', why: e.why, balance: e.balance, lines: e.lines })) }
}

/** Two editions held against each other: line by line, and by who is on only by one of them, on today's data. */
export async function compareEditionsOf(actor: Actor, id: number, earlier: number, later: number, tab: 'left' | 'joined' | 'stayed', offset = 0, signal?: AbortSignal): Promise<EditionsPage> {
  const list = await listFor(actor, id)
  const [before, after] = [await expanded(await linesOfEdition(id, earlier)), await expanded(await linesOfEdition(id, later))]
  const moment = await withLastRounds(momentNow(list.zone), [before, after])
  const answer = await askEngine('compare', { screen: `${actor.id}:editions-${id}`, earlier: before, later: after, moment, tab, page: { offset, limit: PAGE } }, signal)
  const because = reasonsOf(answer, tab === 'joined' ? before.lines : after.lines)
  return {
    lines: differences(before.lines, after.lines),
    figures: answer.figures,
    page: {
      total: answer.total,
      behind: answer.behind === null ? null : new Date(answer.behind).toISOString(),
      records: (await recordsPage(list.subject, answer.ids)).map((record) => {
        const why = because.get(record.id)
        return { ...record, because: why ? { title: `${why.title} of edition ${tab === 'joined' ? earlier : later}`, detail: why.detail } : { title: 'Never on that page', detail: '' } }
      }),
    },
  }
}

/** What differs between two pages, line by line, in words. */
export function differences(before: readonly Line[], after: readonly Line[]): LineDifference[] {
  const off = (line: Line) => (line.off ? ' (switched off)' : '')
  return compareLines(before, after).map((change) => ({
    is: change.is,
    id: change.line.id,
    number: ('after' in change ? change.after : change.before) + 1,
    text: lineText(change.line) + off(change.line),
    was: change.is === 'changed' ? lineText(change.was) + off(change.was) : change.is === 'moved' ? `was line ${change.before + 1}` : null,
  }))
}

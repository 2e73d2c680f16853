import { type Line, lineText } from '@/core/lists/line'
import { compareLines } from '@/core/lists/compare'
import type { EditionsPage, EditionView, LineDifference } from '@/core/views/list-views'
import type { Subject } from '@/core/records/subject'
import { db } from '@/db/connection'
import { askEngine } from '@/engine/client'
import type { Actor } from '@/usecases/team/actor'
import { PAGE, reasonsOf } from './list-account'
import { linesOfEdition, listFor } from './open-list'
import { expanded, withLastRounds } from './named-lists'
import { recordsPage } from '@/usecases/directory/records-page'
import { momentNow } from '@/usecases/screening/screening-now'
import { editionRows } from '@/db/lists/editions'

/** Every edition of a list, the newest first. */
export async function editionIndex(actor: Actor, id: number): Promise<{ name: string; subject: Subject; editions: EditionView[] }> {
  const list = await listFor(actor, id)
  const rows = await editionRows(db(), id)
  return {
    name: list.name,
    subject: list.subject,
    editions: rows.map((e) => ({
      number: e.number,
      savedAt: e.saved_at.toISOString(),
      by: e.by ?? '',
      why: e.why,
      balance: e.balance,
      lines: e.lines,
    })),
  }
}

/** Two editions held against each other: line by line, and by who is on only by one of them, on today's data. */
export async function compareEditionsOf(
  actor: Actor,
  id: number,
  earlier: number,
  later: number,
  tab: Side,
  offset = 0,
  signal?: AbortSignal,
): Promise<EditionsPage> {
  const list = await listFor(actor, id)
  const [before, after] = [await linesOfEdition(id, earlier), await linesOfEdition(id, later)]
  const sides = { before: { lines: before, name: `edition ${earlier}` }, after: { lines: after, name: `edition ${later}` } }
  return {
    lines: differences(before, after),
    ...(await heldAgainst(list, sides, tab, { offset, limit: PAGE }, `${actor.id}:editions-${id}`, signal)),
  }
}

/** Who left, joined or stayed from one page to another. */
export type Side = 'left' | 'joined' | 'stayed'

/** Returns the side that is asked for; *joined* where none is. */
export const sideOf = (tab: unknown): Side => (tab === 'left' || tab === 'stayed' ? tab : 'joined')

/** Lines under the name that is told with why somebody is not on by them. */
interface NamedLines {
  lines: Line[]
  name: string
}

/** Two pages of lines held against each other on today's data, and a page of those who left, joined or stayed, with why. What the lines name must have been checked. */
export async function heldAgainst(
  list: { subject: Subject; zone: string },
  { before, after }: { before: NamedLines; after: NamedLines },
  tab: Side,
  page: { offset: number; limit: number },
  screen: string,
  signal?: AbortSignal,
): Promise<Pick<EditionsPage, 'figures' | 'page'>> {
  const [earlier, later] = [await expanded(before.lines), await expanded(after.lines)]
  const moment = await withLastRounds(momentNow(list.zone), [earlier, later])
  const answer = await askEngine('compare', { screen, earlier, later, moment, tab, page }, signal)
  // Whoever joined was not on before; of whoever left it is the later page that tells why.
  const told = tab === 'joined' ? before : after
  const because = reasonsOf(answer, told.lines)
  return {
    figures: answer.figures,
    page: {
      total: answer.total,
      behind: answer.behind === null ? null : new Date(answer.behind).toISOString(),
      records: (await recordsPage(list.subject, answer.ids)).map((record) => {
        const why = because.get(record.id)
        return {
          ...record,
          because: why ? { title: `${why.title} of ${told.name}`, detail: why.detail } : { title: 'Never on that page', detail: '' },
        }
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

import type { ListFigures } from '@/core/lists/account'
import { type Line, lineText, validLines } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import type { PeoplePage } from '@/core/outputs/views'
import { askEngine } from '@/engine/client'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from './actor'
import { signedLine } from './lists'
import { peoplePage } from './people-page'
import { momentNow } from './screening-now'

/** How many people one page of a table brings. */
export const PAGE = 60

/** The account of some lines and a page of people behind one of its tabs. The lines need not be saved. */
export async function listAccountFor(
  actor: Actor,
  ask: { lines: unknown; view: ListView; offset?: number; screen?: string },
  signal?: AbortSignal,
): Promise<{ figures: ListFigures; page: PeoplePage }> {
  const lines = linesFor(actor, ask.lines)
  const answer = await askEngine(
    'list',
    { screen: ask.screen && `${actor.id}:${ask.screen}`, lines, moment: momentNow(settings().ARCH_ZONE), view: ask.view, page: { offset: ask.offset ?? 0, limit: PAGE } },
    signal,
  )
  const people = await peoplePage(answer.ids)
  const decided = new Map(answer.ids.map((id, i) => [id, answer.decided[i]]))
  return {
    figures: answer.figures,
    page: {
      total: answer.total,
      behind: answer.behind === null ? null : new Date(answer.behind).toISOString(),
      people: people.map(({ view }) => {
        const by = decided.get(view.id)
        const i = by ? lines.findIndex((line) => line.id === by.line) : -1
        if (!by || i < 0) return view
        return { ...view, because: { title: `${by.how === 'out' ? 'Left out' : 'Unknown'} by line ${i + 1}`, detail: lineText(lines[i]) } }
      }),
    },
  }
}

function linesFor(actor: Actor, raw: unknown): Line[] {
  try {
    return validLines(raw).map((line) => signedLine(line, actor))
  } catch (error) {
    throw new Refused(`The account cannot be worked out: ${(error as Error).message}.`)
  }
}

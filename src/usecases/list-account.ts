import type { ListFigures } from '@/core/lists/account'
import { type Line, lineText, validLines } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import type { PeoplePage } from '@/core/outputs/views'
import { askEngine } from '@/engine/client'
import type { ListAnswer } from '@/engine/protocol'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from './actor'
import { signedLine } from './lists'
import { lookBefore } from './looks'
import { checkSeen, expanded, withLastRounds } from './named-lists'
import { peoplePage } from './people-page'
import { momentNow } from './screening-now'

/** How many people one page of a table brings. */
export const PAGE = 60

/** What a list's screen asks for: lines that need not be saved, a tab or figure, and the list they belong to, if any. */
export interface AccountAsked {
  lines: unknown
  view: ListView
  list?: number
  offset?: number
  screen?: string
}

export interface AccountShown {
  figures: ListFigures
  page: PeoplePage
  /** How many came on since this person last looked; null where they never did. */
  fresh: number | null
}

/** The account of some lines and a page of people behind one of its tabs. */
export async function listAccountFor(actor: Actor, ask: AccountAsked, signal?: AbortSignal): Promise<AccountShown> {
  const { lines, answer } = await answerFor(actor, ask, PAGE, signal)
  const because = reasonsOf(answer, lines)
  return {
    figures: answer.figures,
    fresh: answer.fresh,
    page: {
      total: answer.total,
      behind: answer.behind === null ? null : new Date(answer.behind).toISOString(),
      people: (await peoplePage(answer.ids)).map(({ view }) => {
        const why = because.get(view.id)
        return why ? { ...view, because: why } : view
      }),
    },
  }
}

/** What the engine says of some lines, after what they name was looked up and may be seen. */
export async function answerFor(actor: Actor, ask: AccountAsked, limit: number, signal?: AbortSignal): Promise<{ lines: Line[]; answer: ListAnswer }> {
  const lines = linesFor(actor, ask.lines)
  await checkSeen(actor, lines)
  const page = await expanded(lines)
  const moment = await withLastRounds(momentNow(settings().ARCH_ZONE), [page])
  const since = ask.list === undefined ? null : await lookBefore(actor, ask.list)
  const answer = await askEngine(
    'list',
    { screen: ask.screen && `${actor.id}:${ask.screen}`, lines, named: page.named, moment, view: ask.view, since, page: { offset: ask.offset ?? 0, limit } },
    signal,
  )
  return { lines, answer }
}

/** Why each of the people of an answer is not on, where a line decided. */
export function reasonsOf(answer: Pick<ListAnswer, 'ids' | 'decided'>, lines: Line[]): Map<number, { title: string; detail: string }> {
  const texts = new Map(lines.map((line, i) => [line.id, { number: i + 1, text: lineText(line) }]))
  const reasons = new Map<number, { title: string; detail: string }>()
  answer.ids.forEach((id, i) => {
    const by = answer.decided[i]
    const line = by && texts.get(by.line)
    if (line) reasons.set(id, { title: `${by.how === 'out' ? 'Left out' : 'Unknown'} by line ${line.number}`, detail: line.text })
  })
  return reasons
}

function linesFor(actor: Actor, raw: unknown): Line[] {
  try {
    return validLines(raw).map((line) => signedLine(line, actor))
  } catch (error) {
    throw new Refused(`The account cannot be worked out: ${(error as Error).message}.`)
  }
}

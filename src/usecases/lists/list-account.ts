import type { AnswerTo, Having, PageOfLines, Place } from '@/engine/protocol'
import type { ListFigures } from '@/core/lists/account'
import type { Moment } from '@/core/criteria/kind'
import type { SortKey } from '@/core/facets/sort'
import { type Line, lineText, subjectOf, validLines } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import type { RecordsPage } from '@/core/views/list-views'
import { askEngine } from '@/engine/client'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from '@/usecases/team/actor'
import { checkedShape } from './area-shape'
import { signedLine } from './signed-lines'
import { lookBefore } from './last-looked'
import { checkSeen, expanded, withLastRounds } from './named-lists'
import { recordsPage } from '@/usecases/directory/records-page'
import { listFor } from './open-list'
import { openersFor } from '@/usecases/rounds/openers'
import { theseIds } from '@/db/rounds/opener-rows'
import { localDate } from '@/core/calendar/local-day'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { momentNow } from '@/usecases/screening/screening-now'

/** How many people one page of a table brings. */
export const PAGE = 60

/** What a list's screen asks for: lines that need not be saved, a tab or figure, and the list they belong to, if any. */
export interface AccountAsked {
  lines: unknown
  view: ListView
  list?: number
  offset?: number
  screen?: string
  /** By what the page is sorted, and the one value of a facet it is narrowed to. */
  sort?: SortKey[]
  having?: Having | null
  /** Columns to fill in, by the keys of facets and a few of their own. */
  columns?: string[]
  /** Only those that lie in a shape, or at some premises. */
  place?: { shape: unknown } | { premises: number[] } | null
  /** No page of records: the figures alone. */
  figuresOnly?: boolean
  /** With the opener that each of the people would get as somebody on the list. */
  openers?: boolean
}

export interface AccountShown {
  figures: ListFigures
  page: RecordsPage
  /** How many came on since this person last looked; null where they never did. */
  fresh: number | null
}

/** The account of some lines, and what gives the page of records behind one of its tabs: the figures need not wait for it. */
export async function beginAccount(
  actor: Actor,
  ask: AccountAsked,
  signal?: AbortSignal,
): Promise<Omit<AccountShown, 'page'> & { page: () => Promise<RecordsPage> }> {
  const { lines, answer } = await answerFor(actor, ask, ask.figuresOnly ? 0 : PAGE, signal)
  const because = reasonsOf(answer, lines)
  return {
    figures: answer.figures,
    fresh: answer.fresh,
    page: async () => {
      const openers =
        subjectOf(lines) === 'person' && ask.openers && ask.list !== undefined ? await openersShown(actor, ask.list, answer.ids) : null
      return {
        total: answer.total,
        behind: answer.behind === null ? null : new Date(answer.behind).toISOString(),
        records: (await recordsPage(subjectOf(lines), answer.ids, answer.glances)).map((record) => {
          const why = because.get(record.id)
          const cells = answer.cells?.[answer.ids.indexOf(record.id)]
          const opener = openers?.get(record.id)?.text
          return {
            ...record,
            ...(why ? { because: why } : {}),
            ...(cells ? { cells } : {}),
            ...(opener !== undefined && record.person ? { person: { ...record.person, opener } } : {}),
          }
        }),
      }
    },
  }
}

/** The openers of a list's people, for whoever may see the list. */
export async function openersShown(actor: Actor, list: number, people: readonly number[]) {
  const { zone } = await listFor(actor, list, 'see')
  return openersFor(db(), list, theseIds(people), localDate(now().getTime(), zone))
}

/** The account of some lines and a page of records behind one of its tabs. */
export async function listAccountFor(actor: Actor, ask: AccountAsked, signal?: AbortSignal): Promise<AccountShown> {
  const { figures, fresh, page } = await beginAccount(actor, ask, signal)
  return { figures, fresh, page: await page() }
}

/** Lines that need not be saved, checked and signed, with all that they name and the moment they are asked at. Throws Refused where they cannot be worked out. */
export async function preparedLines(actor: Actor, raw: unknown): Promise<PageOfLines & { moment: Moment }> {
  const lines = linesFor(actor, raw)
  await checkSeen(actor, lines)
  const page = await expanded(lines)
  return { lines: page.lines, named: page.named, moment: await withLastRounds(momentNow(settings().ARCH_ZONE), [page]) }
}

/** What the engine says of some lines, after what they name was looked up and may be seen. */
export async function answerFor(
  actor: Actor,
  ask: AccountAsked,
  limit: number,
  signal?: AbortSignal,
): Promise<{ lines: Line[]; answer: AnswerTo<'list'> }> {
  // What was sent is checked before anything is asked for.
  const place = placeOf(ask.place)
  const [{ lines, named, moment }, since] = await Promise.all([
    preparedLines(actor, ask.lines),
    ask.list === undefined ? null : lookBefore(actor, ask.list),
  ])
  const answer = await askEngine(
    'list',
    {
      screen: ask.screen && `${actor.id}:${ask.screen}`,
      lines,
      named,
      moment,
      view: ask.view,
      since,
      sort: ask.sort,
      having: ask.having,
      columns: ask.columns,
      place,
      page: { offset: ask.offset ?? 0, limit },
    },
    signal,
  )
  return { lines, answer }
}

/** Why each of the people of an answer is not on, where a line decided. */
export function reasonsOf(
  answer: Pick<AnswerTo<'list'>, 'ids' | 'decided'>,
  lines: Line[],
): Map<number, { title: string; detail: string }> {
  const texts = new Map(lines.map((line, i) => [line.id, { number: i + 1, text: lineText(line, subjectOf(lines)) }]))
  const reasons = new Map<number, { title: string; detail: string }>()
  answer.ids.forEach((id, i) => {
    const by = answer.decided[i]
    const line = by && texts.get(by.line)
    if (line) reasons.set(id, { title: `${by.how === 'out' ? 'Left out' : 'Unknown'} by line ${line.number}`, detail: line.text })
  })
  return reasons
}

function placeOf(place: AccountAsked['place']): Place | null {
  if (!place) return null
  return 'shape' in place ? { shape: checkedShape(place.shape) } : { premises: place.premises.filter(Number.isSafeInteger).slice(0, 1000) }
}

function linesFor(actor: Actor, raw: unknown): Line[] {
  try {
    return validLines(raw).map((line) => signedLine(line, actor))
  } catch (error) {
    throw new Refused(`The account cannot be worked out: ${(error as Error).message}.`)
  }
}

'use client'

import { useRef, useState } from 'react'
import { FACETS } from '@/core/facets/registry'
import type { TableSet } from '@/core/facets/table'
import type { ListFigures } from '@/core/lists/account'
import { type Line, subjectOf } from '@/core/lists/line'
import type { ListView as View } from '@/core/lists/view'
import type { RecordsPage, RecordView } from '@/core/views/list-views'
import { isWhole } from './line-editing'
import { accountWhenUp } from './list-asking'
import type { Group } from './list-groups'
import { type People, usePeople } from '@/ui/tables/use-people'

interface Asked {
  list: number
  lines: Line[]
  view: View
  table: TableSet
  group: Group | null
  /** Grows when the data changed. */
  heard: number
  tell: (text: string | null) => void
}

/** An account that was asked for before the page was drawn with its lines. */
interface Early {
  key: string
  abort: AbortController
  page: Promise<{ page: RecordsPage }>
}

interface Account {
  figures: ListFigures | null
  fresh: number | null
  people: People<RecordView>
  /** To be called with lines that are about to stand: what they give is asked for while the page is still being drawn. */
  soon: (lines: Line[]) => void
}

/** The account of the lines as they stand and the records behind a tab or figure. */
export function useListAccount({ list, lines, view, table, group, heard, tell }: Asked): Account {
  const [figures, setFigures] = useState<ListFigures | null>(null)
  const [fresh, setFresh] = useState<number | null>(null)
  const early = useRef<Early | null>(null)
  const underWay = useRef<AbortController | null>(null)
  // What the engine tells of columns comes without those that are drawn here.
  const told = table.columns.filter((c) => Object.hasOwn(FACETS[subjectOf(lines)], c))
  const body = (of: Line[], offset: number) => ({
    lines: of.filter(isWhole),
    view,
    offset,
    list,
    screen: `list-${list}`,
    columns: told,
    sort: table.sort,
    having: group,
  })
  const ask = (asked: object, signal: AbortSignal) =>
    accountWhenUp(asked, signal, tell, (part) => {
      if (signal.aborted) return
      setFigures(part.figures)
      setFresh(part.fresh)
      tell(null)
    })
  // What was asked before the data changed is never taken for what was asked after.
  const keyOf = (asked: object) => JSON.stringify([asked, heard])
  const soon = (next: Line[]) => {
    const asked = body(next, 0)
    const key = keyOf(asked)
    // A line that is not whole yet changes nothing that could be asked; going back on what was just begun does.
    if (key === (early.current?.key ?? keyOf(body(lines, 0)))) return
    const abort = new AbortController()
    early.current?.abort.abort()
    // The engine answers the newest question of a screen alone: the one under way would be told that it was overtaken.
    underWay.current?.abort()
    const page = ask(asked, abort.signal)
    // Whoever takes it hears of a failure; nobody else has to.
    page.catch(() => {})
    early.current = { key, abort, page }
  }
  const people = usePeople<RecordView>(
    JSON.stringify([lines.filter(isWhole), view, heard, table.columns, table.sort, group]),
    async (offset, signal) => {
      const asked = body(lines, offset)
      const begun = offset === 0 ? early.current : null
      if (begun) early.current = null
      const mine = begun?.key === keyOf(asked) ? begun : null
      if (begun && !mine) begun.abort.abort()
      const own = mine?.abort ?? new AbortController()
      if (offset === 0) underWay.current = own
      signal.addEventListener('abort', () => own.abort())
      const { page } = await (mine ? mine.page : ask(asked, own.signal))
      return {
        total: page.total,
        behind: page.behind,
        people: page.records.map((record) => ({ ...record, cells: table.columns.map((c) => record.cells?.[told.indexOf(c)] ?? null) })),
      }
    },
  )
  return { figures, fresh, people, soon }
}

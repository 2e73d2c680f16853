'use client'

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { FACETS } from '@/core/facets/registry'
import type { TableSet } from '@/core/facets/table'
import type { ListFigures } from '@/core/lists/account'
import { type Line, subjectOf } from '@/core/lists/line'
import type { ListView as View } from '@/core/lists/view'
import { type Records, useRecords } from '@/ui/tables/use-records'
import { isWhole } from './line-editing'
import { accountPage, withCells } from './list-asking'
import type { Group } from './list-groups'

interface Shown {
  list: number
  lines: Line[]
  view: View
  table: TableSet
  group: Group | null
  /** Grows when the data changed. */
  heard: number
}

interface Figures {
  figures: ListFigures
  fresh: number | null
}

interface Account {
  figures: ListFigures | null
  fresh: number | null
  records: Records
  /** To be called with lines that are about to stand: what they give is asked for while the page is still being drawn. */
  soon: (lines: Line[]) => void
}

/** The account of the lines as they stand and the records behind a tab or figure. */
export function useListAccount({ list, lines, view, table, group, heard }: Shown): Account {
  const client = useQueryClient()
  // What the engine tells of columns comes without those that are drawn here.
  const told = table.columns.filter((c) => Object.hasOwn(FACETS[subjectOf(lines)], c))
  const asked = (of: Line[]) => ({
    lines: of.filter(isWhole),
    view,
    list,
    screen: `list-${list}`,
    columns: told,
    openers: table.columns.includes('opener'),
    sort: table.sort,
    having: group,
  })
  // What was asked before the data changed is never taken for what was asked after.
  const keyOf = (of: Line[]) => [LIST_ACCOUNT, list, 'records', asked(of), table.columns, heard]
  const figuresOf = (of: Line[]) => [LIST_ACCOUNT, list, 'figures', asked(of), heard]
  const fetchPage = (of: Line[]) => async (offset: number, signal: AbortSignal) => {
    const page = await accountPage({ ...asked(of), offset }, signal, (part) => {
      if (!signal.aborted) client.setQueryData<Figures>(figuresOf(of), part)
    })
    return withCells(page, table.columns, told)
  }
  const key = keyOf(lines)
  const { data } = useQuery<Figures>({
    queryKey: figuresOf(lines),
    queryFn: () => Promise.reject(new Error('Figures come with the first page.')),
    enabled: false,
    placeholderData: keepPreviousData,
  })
  const soon = (next: Line[]) => {
    const early = keyOf(next)
    // A line that is not whole yet changes nothing that could be asked; going back on what was just begun does.
    const same = JSON.stringify(early) === JSON.stringify(key)
    if (same && client.getQueryState([...key, 0])?.status === 'success') return
    // The engine answers a screen's newest question alone: the one under way would be told that it was overtaken.
    if (!same) void client.cancelQueries({ queryKey: [LIST_ACCOUNT, list, 'records'] })
    void client.prefetchQuery({ queryKey: [...early, 0], queryFn: ({ signal }) => fetchPage(next)(0, signal) })
  }
  const records = useRecords(key, fetchPage(lines))
  return { figures: data?.figures ?? null, fresh: data?.fresh ?? null, records, soon }
}

const LIST_ACCOUNT = 'list account'

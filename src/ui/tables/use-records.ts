'use client'

import { type QueryKey, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { RecordsPage, RecordView } from '@/core/views/list-views'
import { personRecord } from '@/core/views/person-record'
import type { PeoplePage } from '@/core/views/record-views'
import { toldOf } from '@/ui/book/asking'

/** Records behind a tab, fetched a page at a time as they come into view. */
export interface Records<A = unknown> {
  /** Null until the first page is there. */
  total: number | null
  at: (index: number) => RecordView | undefined
  /** Has those between two rows fetched. */
  want: (from: number, to: number) => void
  /** One of those fetched so far. */
  find: (id: number) => RecordView | undefined
  /** Whether what is shown is still what was shown before the last change, until the new first page is there. */
  held: boolean
  /** What came with the first page, such as an account. */
  about: A | undefined
  told: string | null
  /** As of when the answer is, where the database has not responded since. */
  behind: string | null
}

/** So many records come at once. */
const SIZE = 60
/** How long a page is taken for fresh, in milliseconds: as long as lies between asking early and drawing. */
const FRESH = 1000

/** A page of records, and what came with it. */
type Page<A> = RecordsPage & { about?: A }

export type FetchPage<A = unknown> = (offset: number, signal: AbortSignal) => Promise<Page<A>>

/** A page of people as a page of records. */
export const recordsOf = ({ total, people, behind }: PeoplePage): RecordsPage => ({ total, behind, records: people.map(personRecord) })

/**
 * `key` names what is shown; when it changes everything is fetched anew, and what was shown stays until the first page is there.
 * `fetchPage` may be null while nothing can be asked.
 */
export function useRecords<A = unknown>(key: QueryKey, fetchPage: FetchPage<A> | null): Records<A> {
  const client = useQueryClient()
  const [seen, setSeen] = useState({ from: 0, to: 0 })
  const shown = useRef(key)
  const ask = (page: number) => ({
    queryKey: [...key, page],
    queryFn: ({ signal }: { signal: AbortSignal }) => (fetchPage as FetchPage<A>)(page * SIZE, signal),
    staleTime: FRESH,
    placeholderData: () => client.getQueryData<Page<A>>([...shown.current, page]),
  })
  const top = useQuery({ ...ask(0), enabled: fetchPage !== null })
  // The first page comes before the others: the engine answers a screen's newest question alone.
  const begun = fetchPage !== null && top.isSuccess && !top.isPlaceholderData
  const pages = Array.from({ length: seen.to - seen.from + 1 }, (_, i) => seen.from + i).filter((page) => page > 0)
  const others = useQueries({ queries: pages.map((page) => ({ ...ask(page), enabled: begun })) })
  useEffect(() => {
    if (begun) shown.current = key
  })
  const pageAt = (page: number): RecordsPage | undefined => {
    if (page === 0) return top.data
    const place = pages.indexOf(page)
    return place >= 0 ? others[place].data : client.getQueryData<RecordsPage>([...key, page])
  }
  const want = useCallback((from: number, to: number) => {
    const next = { from: Math.floor(from / SIZE), to: Math.floor(to / SIZE) }
    setSeen((before) => (before.from === next.from && before.to === next.to ? before : next))
  }, [])
  return {
    total: top.data?.total ?? null,
    held: top.isPlaceholderData,
    about: top.data?.about,
    told:
      [top, ...others].map((answer) => toldOf(answer, 'The records could not be shown just now.')).find((told) => told !== null) ?? null,
    behind: top.data?.behind ?? null,
    at: (index) => pageAt(Math.floor(index / SIZE))?.records[index % SIZE],
    want,
    find: (id) => {
      for (const [, page] of client.getQueriesData<RecordsPage>({ queryKey: key })) {
        const found = page?.records.find((record) => record.id === id)
        if (found) return found
      }
    },
  }
}

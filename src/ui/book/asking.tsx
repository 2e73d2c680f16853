'use client'

import {
  notifyManager,
  QueryClient,
  QueryClientProvider,
  keepPreviousData,
  useInfiniteQuery,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query'
import { type ReactNode, useCallback, useEffect, useState } from 'react'
import { ask, Told } from './ask'

// An answer is drawn in the turn in which it comes, not in a later one.
notifyManager.setScheduler(queueMicrotask)

/** How long after an answer that did not come the question is put again, in milliseconds. */
const AGAIN = 1500
/** So often at most where a newer question of the same page took its place. */
const TIMES = 3
/** How long an answer is kept after the last page that shows it was left, in milliseconds. */
const KEPT = 30_000

/** What every page asks the application for goes through one client: it gives up what nobody waits for, and asks again while the application is away. */
export function AskingProvider({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          queries: {
            gcTime: KEPT,
            networkMode: 'always',
            refetchOnReconnect: false,
            refetchOnWindowFocus: false,
            retry: (times, error) => error instanceof Told && (error.away || (error.overtaken && times < TIMES)),
            retryDelay: AGAIN,
          },
        },
      }),
  )
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>
}

/** The sentence for an answer that did not come; null while one is there or on its way. `failed` stands for what has no sentence of its own. */
export const toldOf = ({ error, failureReason }: { error: Error | null; failureReason: Error | null }, failed: string): string | null => {
  const reason = error ?? failureReason
  return reason === null ? null : reason instanceof Told ? reason.message : failed
}

/** What to ask: a path, and the body that goes with it where it is posted. */
export type Question = readonly [path: string, body?: unknown]

interface Asked<T> {
  /** The answer; until one comes the one to the question before, where `hold` says so. */
  answer: T | undefined
  /** Whether the answer is still the one to the question before. */
  held: boolean
  /** Why none is there, in a sentence. */
  told: string | null
  /** Puts the question again. */
  again: () => Promise<unknown>
  /** Takes this for the answer, until the question is put again. */
  take: (answer: T) => void
}

interface How<T> {
  /** An answer that came with the page: nothing is asked until it is asked again, or another comes with the page. */
  first?: T
  /** After an answer, in how many milliseconds it is asked again; false for not at all. */
  every?: (answer: T) => number | false
  /** Whether the answer before stays until the next one is there. */
  hold?: boolean
  /** What else the answer depends on: it is asked anew when this changes. */
  also?: string | number
  /** What is said where no answer came and none says why. */
  failed?: string
}

/** The answer to a question, put anew whenever it changes; null asks nothing. */
export function useAsked<T>(question: Question | null, { first, every, hold = false, also, failed = NOT_SHOWN }: How<T> = {}): Asked<T> {
  const client = useQueryClient()
  const [path, body] = question ?? NOTHING
  const key = [path, body ?? null, also ?? null]
  const query = useQuery<T>({
    queryKey: key,
    queryFn: ({ signal }) => ask<T>(path, body, signal),
    enabled: question !== null,
    ...(every ? { refetchInterval: ({ state }) => (state.data === undefined ? false : every(state.data)) } : {}),
    staleTime: first === undefined ? 0 : Number.POSITIVE_INFINITY,
    ...(first === undefined ? {} : { initialData: first }),
    ...(hold ? { placeholderData: keepPreviousData } : {}),
  })
  const { refetch } = query
  const named = JSON.stringify(key)
  const take = useCallback((answer: T) => void client.setQueryData<T>(JSON.parse(named), answer), [client, named])
  // What came with the page is newer than what an earlier look at it left behind.
  useEffect(() => {
    if (first !== undefined) take(first)
  }, [first, take])
  return { answer: query.data, held: query.isPlaceholderData, told: toldOf(query, failed), again: refetch, take }
}

const NOTHING: Question = ['']
const NOT_SHOWN = 'The answer could not be shown. Try again.'

interface Growing<P> {
  /** The pages that are there, one under the other. */
  pages: P[]
  told: string | null
  /** Fetches the next page; null where there is none. */
  more: (() => void) | null
  again: () => Promise<unknown>
}

/**
 * Rows that are shown a page at a time, each put under those before. `question` asks for the page after so many rows; `sizeOf` says how
 * many a page holds; `first` stands until the first page is there.
 */
export function useGrowing<P extends { total: number }>(
  question: (offset: number) => Question,
  sizeOf: (page: P) => number,
  { first, failed = NOT_SHOWN }: { first?: P; failed?: string } = {},
): Growing<P> {
  const rows = (pages: readonly P[]) => pages.reduce((sum, page) => sum + sizeOf(page), 0)
  const query = useInfiniteQuery({
    queryKey: ['growing', ...question(0)],
    queryFn: ({ signal, pageParam }) => ask<P>(question(pageParam)[0], question(pageParam)[1], signal),
    initialPageParam: 0,
    getNextPageParam: (last: P, pages: P[]) => (sizeOf(last) > 0 && rows(pages) < last.total ? rows(pages) : undefined),
    placeholderData: (before) => before ?? (first && { pages: [first], pageParams: [0] }),
  })
  return {
    pages: query.data?.pages ?? [],
    told: toldOf(query, failed),
    more: query.hasNextPage && !query.isPlaceholderData ? () => void query.fetchNextPage() : null,
    again: query.refetch,
  }
}

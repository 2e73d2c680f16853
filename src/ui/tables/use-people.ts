'use client'

import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react'
import type { PersonView } from '@/core/views/record-views'
import { Told } from '@/ui/book/ask'

/** A page of rows, and as of when it is. */
export interface PageOf<T> {
  total: number
  people: T[]
  behind: string | null
}

/** People, or other records, behind a tab, fetched a page at a time as they come into view. */
export interface People<T = PersonView> {
  total: number | null
  at: (index: number) => T | undefined
  want: (index: number) => void
  /** The first among those fetched so far of which something is true. */
  find: (is: (record: T) => boolean) => T | undefined
  told: string | null
  behind: string | null
  /** Puts in a first page that came with something else, such as an account. */
  begin: (page: PageOf<T>) => void
}

const SIZE = 60

/** `key` names what is shown; when it changes everything is fetched anew. `fetchPage` may be null while nothing can be asked. */
export function usePeople<T = PersonView>(
  key: string,
  fetchPage: ((offset: number, signal: AbortSignal) => Promise<PageOf<T>>) | null,
): People<T> {
  const [pages, setPages] = useState<Map<number, T[]>>(new Map())
  const [total, setTotal] = useState<number | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const [behind, setBehind] = useState<string | null>(null)
  const asked = useRef(new Set<number>())
  const abort = useRef<AbortController>(new AbortController())
  const fetcher = useRef(fetchPage)
  useLayoutEffect(() => {
    fetcher.current = fetchPage
  })

  const begin = useCallback((page: PageOf<T>) => {
    abort.current.abort()
    abort.current = new AbortController()
    asked.current = new Set([0])
    setPages(new Map([[0, page.people]]))
    setTotal(page.total)
    setBehind(page.behind)
    setTold(null)
  }, [])

  const load = useCallback((page: number) => {
    if (asked.current.has(page) || !fetcher.current) return
    asked.current.add(page)
    const { signal } = abort.current
    fetcher
      .current(page * SIZE, signal)
      .then((got) => {
        if (signal.aborted) return
        setPages((before) => new Map(before).set(page, got.people))
        setTotal(got.total)
        setBehind(got.behind)
        setTold(null)
      })
      .catch((error) => {
        if (signal.aborted) return
        asked.current.delete(page)
        // Given up by whoever asked, since something newer is asked for.
        if ((error as Error).name === 'AbortError') return
        setTold(error instanceof Told ? error.message : 'The people could not be shown just now.')
      })
  }, [])

  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for everything that fetchPage depends on
  useEffect(() => {
    abort.current.abort()
    abort.current = new AbortController()
    asked.current = new Set()
    if (fetcher.current) load(0)
    return () => abort.current.abort()
  }, [key, load])

  return {
    total,
    told,
    behind,
    begin,
    at: (index) => pages.get(Math.floor(index / SIZE))?.[index % SIZE],
    want: (index) => load(Math.floor(index / SIZE)),
    find: (is) => {
      for (const page of pages.values()) {
        const found = page.find(is)
        if (found) return found
      }
    },
  }
}

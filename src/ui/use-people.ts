'use client'

import { useCallback, useEffect, useRef, useState } from 'react'
import type { PeoplePage, PersonView } from '@/core/outputs/views'
import { Told } from './ask'

/** People behind a tab, fetched a page at a time as they come into view. */
export interface People {
  total: number | null
  at: (index: number) => PersonView | undefined
  want: (index: number) => void
  told: string | null
  behind: string | null
  /** Puts in a first page that came with something else, such as an account. */
  begin: (page: PeoplePage) => void
}

const SIZE = 60

/** `key` names what is shown; when it changes everything is fetched anew. `fetchPage` may be null while nothing can be asked. */
export function usePeople(key: string, fetchPage: ((offset: number, signal: AbortSignal) => Promise<PeoplePage>) | null): People {
  const [pages, setPages] = useState<Map<number, PersonView[]>>(new Map())
  const [total, setTotal] = useState<number | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const [behind, setBehind] = useState<string | null>(null)
  const asked = useRef(new Set<number>())
  const abort = useRef<AbortController>(new AbortController())
  const fetcher = useRef(fetchPage)
  fetcher.current = fetchPage

  const begin = useCallback((page: PeoplePage) => {
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
  }
}

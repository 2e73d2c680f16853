'use client'

import { useSearchParams } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'

/** Words of an address that stand beside the view of a page, and stay when it changes. */
const APART = ['beside'] as const

/** Whoever types pauses for so many milliseconds. */
const PAUSE = 400

function write(words: URLSearchParams): void {
  const asked = words.toString()
  window.history.replaceState(null, '', asked === '' ? window.location.pathname : `${window.location.pathname}?${asked}`)
}

/**
 * What of a page is shown, kept in its address too, so that coming back to it, or loading it again, shows the same. `valid` says
 * whether what stands in the address is a view of this page; anything else is the first. What somebody types, the part `typed`, is put
 * into the address once they pause: the router goes over the page for every change of it.
 */
export function useViewInAddress<V extends Record<string, string | number | undefined>>(
  first: V,
  valid: (view: Record<string, string>) => V | null,
  typed?: keyof V,
): [V, (view: V) => void] {
  const asked = useSearchParams()
  const [view, setView] = useState<V>(() => valid(Object.fromEntries(asked)) ?? first)
  const pause = useRef<ReturnType<typeof setTimeout>>(undefined)
  useEffect(() => () => clearTimeout(pause.current), [])
  const put = (next: V) => {
    const words = new URLSearchParams()
    if (JSON.stringify(next) !== JSON.stringify(first))
      for (const [key, value] of Object.entries(next)) if (value !== undefined) words.set(key, String(value))
    const now = new URLSearchParams(window.location.search)
    for (const key of APART) if (now.has(key)) words.set(key, now.get(key) as string)
    write(words)
  }
  return [
    view,
    (next) => {
      setView(next)
      clearTimeout(pause.current)
      if (typed !== undefined && next[typed] !== view[typed]) pause.current = setTimeout(() => put(next), PAUSE)
      else put(next)
    },
  ]
}

/** The number of the record that is open beside a page, kept in its address too; null where none is. */
export function useBesideInAddress(): [number | null, (id: number | null) => void] {
  const asked = useSearchParams().get('beside')
  const [id, setId] = useState<number | null>(() => (asked !== null && /^\d{1,15}$/.test(asked) ? Number(asked) : null))
  return [
    id,
    (next) => {
      setId(next)
      const words = new URLSearchParams(window.location.search)
      if (next === null) words.delete('beside')
      else words.set('beside', String(next))
      write(words)
    },
  ]
}

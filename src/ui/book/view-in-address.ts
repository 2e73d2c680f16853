'use client'

import { useSearchParams } from 'next/navigation'
import { useState } from 'react'

/**
 * What of a page is shown, kept in its address too, so that coming back to it, or loading it again, shows the same. `valid` says
 * whether what stands in the address is a view of this page; anything else is the first.
 */
export function useViewInAddress<V extends Record<string, string | number | undefined>>(
  first: V,
  valid: (view: Record<string, string>) => V | null,
): [V, (view: V) => void] {
  const asked = useSearchParams()
  const [view, setView] = useState<V>(() => valid(Object.fromEntries(asked)) ?? first)
  return [
    view,
    (next) => {
      setView(next)
      const words = Object.entries(next).flatMap(([key, value]) => (value === undefined ? [] : [[key, String(value)]]))
      const same = JSON.stringify(next) === JSON.stringify(first)
      window.history.replaceState(null, '', same ? window.location.pathname : `${window.location.pathname}?${new URLSearchParams(words)}`)
    },
  ]
}

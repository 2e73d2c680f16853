'use client'

import { useLayoutEffect, useRef, useState } from 'react'

/**
 * The same functions at every drawing, each of which does what the latest drawing says: whoever is handed them need not be
 * drawn anew because they are. They are for events, not to be called while drawing.
 */
export function useLatest<T extends Record<string, (...args: never[]) => unknown>>(own: T): T {
  const latest = useRef(own)
  useLayoutEffect(() => {
    latest.current = own
  })
  const [stable] = useState(
    () => Object.fromEntries(Object.keys(own).map((key) => [key, (...args: never[]) => latest.current[key](...args)])) as T,
  )
  return stable
}

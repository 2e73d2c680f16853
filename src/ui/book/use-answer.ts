import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { ask } from './ask'

/**
 * The answer to what is asked beside a form that is being filled in: asked again a `pause` (in ms) after the question changed, and
 * given up when it changes once more. Null while nothing is asked (no `body`), until the answer to exactly this question is there,
 * and where none came.
 */
export function useAnswer<T>(url: string, body: unknown, pause: number): T | null {
  const asked = body === null ? null : JSON.stringify([url, body])
  const settled = useSettled(asked, pause)
  const { data } = useQuery<T>({
    queryKey: ['beside a form', settled],
    queryFn: ({ signal }) => {
      const [to, what] = JSON.parse(settled as string)
      return ask<T>(to, what, signal)
    },
    enabled: asked !== null && settled === asked,
    gcTime: 0,
  })
  return settled === asked ? (data ?? null) : null
}

/** A value as it is once it has stood for a `pause` (in ms). */
export function useSettled<T>(value: T, pause: number): T {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), pause)
    return () => clearTimeout(timer)
  }, [value, pause])
  return settled
}

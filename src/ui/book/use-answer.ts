import { useEffect, useState } from 'react'
import { ask } from './ask'

/**
 * The answer to what is asked beside a form that is being filled in: asked again a `pause` (in ms) after the question changed, and
 * given up when it changes once more. Null while nothing is asked (no `body`), until the answer to exactly this question is there,
 * and where none came.
 */
export function useAnswer<T>(url: string, body: unknown, pause: number): T | null {
  const [said, setSaid] = useState<{ of: string; answer: T } | null>(null)
  const asked = body === null ? null : JSON.stringify([url, body])
  useEffect(() => {
    if (asked === null) return
    const abort = new AbortController()
    const timer = setTimeout(() => {
      const [to, what] = JSON.parse(asked)
      ask<T>(to, what, abort.signal).then(
        (answer) => setSaid({ of: asked, answer }),
        () => {},
      )
    }, pause)
    return () => {
      clearTimeout(timer)
      abort.abort()
    }
  }, [asked, pause])
  return said !== null && said.of === asked ? said.answer : null
}

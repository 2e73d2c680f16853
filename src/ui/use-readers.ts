'use client'

import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react'
import { ask } from './ask'
import { useNews } from './book'

/** How often a page says that it is still open, in milliseconds. */
const BEAT = 20_000

/** Who else has a list open just now, and whether they work on it. */
export function useReaders(list: number, working: boolean): { name: string; working: boolean }[] {
  const [others, setOthers] = useState<{ name: string; working: boolean }[]>([])
  const now = useRef(working)
  useLayoutEffect(() => {
    now.current = working
  }, [working])
  const url = `/api/lists/${list}/here`
  const say = useCallback(() => {
    if (document.hidden) return
    ask<{ others: { name: string; working: boolean }[] }>(url, { working: now.current }).then(
      (got) => setOthers((before) => (JSON.stringify(before) === JSON.stringify(got.others) ? before : got.others)),
      () => {},
    )
  }, [url])
  // biome-ignore lint/correctness/useExhaustiveDependencies: told anew when work begins or ends
  useEffect(say, [say, working])
  useEffect(() => {
    const beat = setInterval(say, BEAT)
    const leave = () => void navigator.sendBeacon(url, new Blob([JSON.stringify({ gone: true })], { type: 'application/json' }))
    window.addEventListener('pagehide', leave)
    return () => {
      clearInterval(beat)
      window.removeEventListener('pagehide', leave)
      leave()
    }
  }, [say, url])
  useNews((news) => {
    if (news.is === 'here' && news.list === list) say()
  })
  return others
}

'use client'

import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react'
import { ask } from '@/ui/book/ask'
import { useNews } from '@/ui/book/book'

/** How often a page says that it is still open, in milliseconds. */
const BEAT = 20_000
/** How long after something changed it is said, or asked: whoever edits comes first. */
const AFTER = 1000

/** Who else has a list open just now, and whether they work on it. */
export function useReaders(list: number, working: boolean): { name: string; working: boolean }[] {
  const [others, setOthers] = useState<{ name: string; working: boolean }[]>([])
  const now = useRef(working)
  useLayoutEffect(() => {
    now.current = working
  }, [working])
  const told = useRef<boolean | null>(null)
  const due = useRef<ReturnType<typeof setTimeout> | undefined>(undefined)
  const url = `/api/lists/${list}/here`
  const say = useCallback(() => {
    if (document.hidden) return
    told.current = now.current
    ask<{ others: { name: string; working: boolean }[] }>(url, { working: now.current }).then(
      (got) => setOthers((before) => (JSON.stringify(before) === JSON.stringify(got.others) ? before : got.others)),
      () => {},
    )
  }, [url])
  const saySoon = useCallback(() => {
    clearTimeout(due.current)
    due.current = setTimeout(say, AFTER)
  }, [say])
  useEffect(() => {
    if (told.current !== null && told.current !== working) saySoon()
  }, [saySoon, working])
  useEffect(() => {
    say()
    const beat = setInterval(say, BEAT)
    const leave = () => void navigator.sendBeacon(url, new Blob([JSON.stringify({ gone: true })], { type: 'application/json' }))
    window.addEventListener('pagehide', leave)
    return () => {
      clearInterval(beat)
      clearTimeout(due.current)
      window.removeEventListener('pagehide', leave)
      leave()
    }
  }, [say, url])
  useNews((news) => {
    if (news.is === 'here' && news.list === list) saySoon()
  })
  return others
}

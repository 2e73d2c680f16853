'use client'

import type { These } from '@/core/views/these'
import { useQuery } from '@tanstack/react-query'
import { usePathname, useRouter } from 'next/navigation'
import { createContext, type ReactNode, useCallback, useContext, useEffect, useLayoutEffect, useRef } from 'react'
import { Toaster, toast } from 'sonner'
import { type Subject, SUBJECT_NAMES } from '@/core/records/subject'
import type { ListView } from '@/core/lists/view'
import type { Line } from '@/core/lists/line'
import type { ActionResult } from '@/core/views/action-result'
import { ask } from './ask'
import { type Writing, writeFor } from '@/core/text/written'
import { count } from './figures'

/** What is put on the list in hand or taken off it. */
export type Found = { of: Subject; ids: number[] } | { of: Subject; find: string } | { list: number; lines: unknown; view: ListView }

export interface Put {
  list: string
  listId: number
  count: number | null
  before: { basedOn: number; lines: unknown }
}

export interface BookActions {
  listOf: (these: These) => Promise<ActionResult<number>>
  inHand: (id: number | null) => Promise<ActionResult<unknown>>
  putOn: (side: 'in' | 'out', found: Found, reason?: string) => Promise<ActionResult<Put>>
  draft: (
    id: number,
    basedOn: number,
    lines: unknown,
    over?: readonly [unknown],
  ) => Promise<ActionResult<{ elsewhere: boolean; kept?: Line[] | null }>>
}

interface Book {
  hand: { id: number; name: string; subject: Subject } | null
  /** How many the list in hand holds; null until it is known. */
  handOn: number | null
  actions: BookActions
  /** Puts people on the list in hand or takes them off it; says so, with a way back. */
  put: (side: 'in' | 'out', found: Found) => Promise<void>
  /** Counts the list in hand anew. */
  weigh: () => void
}

const Context = createContext<Book | null>(null)

/** The list in hand, wherever one is, and what is told at the edge of the page. */
export function BookProvider({
  hand,
  writing,
  actions,
  children,
}: {
  hand: Book['hand']
  writing: Writing
  actions: BookActions
  children: ReactNode
}) {
  writeFor(writing)
  const router = useRouter()
  const here = usePathname()
  const handId = hand?.id ?? null
  const held = useQuery({
    queryKey: ['list in hand', handId],
    queryFn: ({ signal }) => ask<{ on: number | null }>('/api/hand', undefined, signal),
    enabled: handId !== null,
  })
  const handOn = handId === null ? null : (held.data?.on ?? null)
  const { refetch } = held
  const weigh = useCallback(() => {
    if (handId !== null) void refetch()
  }, [handId, refetch])
  // biome-ignore lint/correctness/useExhaustiveDependencies: weighed anew on every page
  useEffect(weigh, [weigh, here])
  useNews((news) => {
    // What others change shows in the count at the edge of the page, too.
    if (news.is === 'data' || (news.is === 'edition' && news.list === handId)) weigh()
    // Whoever looks at it sees it end.
    if (news.is === 'work' && news.href !== here)
      toast.success(news.text, { duration: 20_000, action: { label: 'Look', onClick: () => router.push(news.href) } })
  })
  const put = async (side: 'in' | 'out', found: Found) => {
    const result = await actions.putOn(side, found)
    if (!result.ok) {
      toast.error(result.error)
      return
    }
    const { list, listId, count: n, before } = result.value
    weigh()
    toast.success(
      `${n === null ? 'A line that names that list was' : `${count(n)} ${n === 1 ? ONE[hand?.subject ?? 'person'] : `${SUBJECT_NAMES[hand?.subject ?? 'person']} were`}`} ${side === 'in' ? 'put on' : 'taken off'} “${list}”. It is in your draft, not saved yet.`,
      {
        action: { label: 'Undo', onClick: () => void actions.draft(listId, before.basedOn, before.lines).then(weigh) },
      },
    )
  }
  return (
    <Context.Provider value={{ hand, handOn, actions, put, weigh }}>
      {children}
      <Toaster
        position="bottom-center"
        closeButton
        toastOptions={{
          style: {
            background: '#fff',
            color: 'var(--color-ink)',
            border: '1px solid var(--color-strong)',
            fontFamily: 'var(--font-sans)',
            fontSize: '14px',
          },
          actionButtonStyle: { background: 'var(--color-verdigris)' },
        }}
      />
    </Context.Provider>
  )
}

const ONE: Record<Subject, string> = { person: 'person was', organisation: 'organisation was', premises: 'premises was' }

/** Returns what all screens of the book share; only for components inside it. */
export function useBook(): Book {
  const book = useContext(Context)
  if (!book) throw new Error('outside the book')
  return book
}

/** News of what changes elsewhere, while this page is in view. */
export type News =
  | { is: 'work'; text: string; href: string }
  | { is: 'data' }
  | { is: 'talk' | 'here'; list: number }
  | { is: 'edition'; list: number; edition: number; by: string; mine: boolean }
  | { is: 'round'; list: number; round: number }

type Hear = (news: News) => void

/** One stream a page, whoever listens: browsers keep few connections to one place. */
const listeners = new Set<Hear>()
let source: EventSource | null = null

function listen(): void {
  source = new EventSource('/api/news')
  source.onmessage = (event) => {
    const news: News = JSON.parse(event.data)
    for (const hear of [...listeners]) hear(news)
  }
}

/** A page that comes back into view takes it that something changed. */
function onVisible(): void {
  if (document.hidden) {
    source?.close()
    source = null
  } else if (!source) {
    listen()
    for (const hear of [...listeners]) hear({ is: 'data' })
  }
}

/** Listens while the page is in view. */
export function useNews(hear: Hear): void {
  const heard = useRef(hear)
  useLayoutEffect(() => {
    heard.current = hear
  })
  useEffect(() => {
    const own: Hear = (news) => heard.current(news)
    listeners.add(own)
    if (listeners.size === 1) {
      listen()
      document.addEventListener('visibilitychange', onVisible)
    }
    return () => {
      listeners.delete(own)
      if (listeners.size > 0) return
      document.removeEventListener('visibilitychange', onVisible)
      source?.close()
      source = null
    }
  }, [])
}

'use client'

import { MessageSquare } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { LineComment } from '@/core/views/list-views'
import { count, day } from '@/ui/book/figures'

export interface TalkActions {
  comment: (id: number, line: string, text: string) => Promise<ActionResult<unknown>>
  settle: (id: number, line: string) => Promise<ActionResult<unknown>>
}

/** What was said of one line, and a place to say more. Opened from the line, or by its menu. */
export function LineTalk({
  list,
  line,
  number,
  said,
  mayEdit,
  actions,
  open,
  onOpen,
}: {
  list: number
  line: string
  number: number
  said: LineComment[]
  mayEdit: boolean
  actions: TalkActions
  open: boolean
  onOpen: (open: boolean) => void
}) {
  const waiting = said.filter((c) => c.settled === null)
  return (
    <Popover.Root open={open} onOpenChange={onOpen}>
      <Popover.Trigger
        className={`ml-1 inline-flex translate-y-[2px] items-center gap-1 rounded px-1 text-[12.5px] font-semibold text-ochre hover:bg-ochre-wash ${said.length === 0 && !open ? 'sr-only focus:not-sr-only' : ''}`}
        aria-label={
          waiting.length > 0
            ? `${count(waiting.length)} ${waiting.length === 1 ? 'comment' : 'comments'} on line ${number}`
            : said.length > 0
              ? `Settled comments on line ${number}`
              : `Comment on line ${number}`
        }
      >
        <MessageSquare size={13} aria-hidden="true" />{' '}
        {waiting.length > 0 ? count(waiting.length) : said.length > 0 ? 'settled' : 'say something'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="floating w-[360px]"
          align="start"
          sideOffset={6}
          collisionPadding={12}
          aria-label={`Comments on line ${number}`}
        >
          <Thread said={said} />
          <Say
            list={list}
            line={line}
            actions={actions}
            settles={waiting.length > 0 && (mayEdit || waiting.every((c) => c.mine))}
            onDone={() => onOpen(false)}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

function Thread({ said }: { said: LineComment[] }) {
  return (
    <ol className="grid max-h-[280px] gap-2 overflow-y-auto">
      {said.map((c) => (
        <li key={c.id} className={c.settled ? 'text-soft' : ''}>
          <span className="quiet">
            <b className="font-semibold">{c.by}</b> · {day(c.at)}, edition {c.edition}
            {c.settled && ` · settled by ${c.settled.by}`}
          </span>
          <span className="block break-words whitespace-pre-line">{c.text}</span>
        </li>
      ))}
    </ol>
  )
}

function Say({
  list,
  line,
  actions,
  settles,
  onDone,
}: {
  list: number
  line: string
  actions: TalkActions
  settles: boolean
  onDone: () => void
}) {
  const router = useRouter()
  const [text, setText] = useState('')
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  const go = (work: Promise<ActionResult<unknown>>, closes: boolean) =>
    begin(async () => {
      const done = await work
      if (!done.ok) return setTold(done.error)
      setText('')
      if (closes) onDone()
      router.refresh()
    })
  return (
    <form
      className="mt-2 grid gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        go(actions.comment(list, line, text), false)
      }}
    >
      <textarea
        aria-label="Your comment"
        rows={2}
        maxLength={1000}
        value={text}
        onChange={(e) => setText(e.target.value)}
        placeholder="Comment on this line"
      />
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
      <span className="flex gap-2">
        <button type="submit" className="button button-main" disabled={busy || text.trim() === ''}>
          Add comment
        </button>
        {settles && (
          <button type="button" className="button" disabled={busy} onClick={() => go(actions.settle(list, line), true)}>
            Settled
          </button>
        )}
      </span>
    </form>
  )
}

/** What was said of lines that are not on the page any more. */
export function GoneTalk({ said }: { said: LineComment[] }) {
  if (said.length === 0) return null
  const lines = [...new Map(said.map((c) => [c.line, c.of]))]
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-semibold text-verdigris">
        {count(said.length)} {said.length === 1 ? 'comment' : 'comments'} on lines that are gone
      </summary>
      {lines.map(([line, of]) => (
        <div key={line} className="border-b border-rule py-2">
          <p className="quiet line-through">{of}</p>
          <Thread said={said.filter((c) => c.line === line)} />
        </div>
      ))}
    </details>
  )
}

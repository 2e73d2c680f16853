'use client'

import { DropdownMenu } from 'radix-ui'
import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import type { Subject } from '@/core/records/subject'
import type { ListView as View } from '@/core/lists/view'
import type { ActionResult } from '@/core/views/action-result'
import { useBook } from '@/ui/book/book'
import { count } from '@/ui/book/figures'

/** What is written on people: a tag, whose they are, a note. */
export type Mark = { tag: string } | { untag: string } | { holder: string } | { note: string }
export type MarkAction = (marked: Marked, what: Mark) => Promise<ActionResult<{ act: number; changed: number; already: number }>>
export type UnmarkAction = (act: number) => Promise<ActionResult<{ back: number; kept: number }>>
export type Marked = { people: number[] } | { lines: unknown; view: View; having?: { key: string; label: string | null } | null }

interface ChosenBarProps {
  subject: Subject
  chosen: ReadonlySet<number>
  total: number | null
  /** Everybody behind what is shown. */
  all: Exclude<Marked, { people: number[] }>
  team: { id: string; name: string }[]
  onPick: (side: 'in' | 'out', who: Marked, reason: string) => Promise<void>
  onClear: () => void
  mark: MarkAction
  unmark: UnmarkAction
}

/** What can be done with those who are chosen, over any number of pages; or with all of them at once. */
export function ChosenBar({ subject, chosen, total, all, team, onPick, onClear, mark, unmark }: ChosenBarProps) {
  const { hand, put } = useBook()
  const [everybody, setEverybody] = useState(false)
  const [asking, setAsking] = useState<'tag' | 'untag' | 'note' | 'reason out' | null>(null)
  const [text, setText] = useState('')
  const [busy, begin] = useTransition()
  if (chosen.size === 0 && !everybody) return null
  const ids = [...chosen]
  const marked: Marked = everybody ? all : { people: ids }
  const many = everybody ? (total ?? 0) : chosen.size
  const undo = (act: number) =>
    begin(async () => {
      const done = await unmark(act)
      if (done.ok)
        toast.success(
          `Undone for ${count(done.value.back)}.${done.value.kept > 0 ? ` ${count(done.value.kept)} were changed since and are kept.` : ''}`,
        )
      else toast.error(done.error)
    })
  const write = (what: Mark, said: (n: number) => string, had: string) =>
    begin(async () => {
      const done = await mark(marked, what)
      if (done.ok) {
        const { act, changed, already } = done.value
        toast.success(`${said(changed)}${already > 0 ? ` ${count(already)} ${had}.` : ''}`, {
          duration: 12_000,
          ...(changed > 0 ? { action: { label: 'Undo this', onClick: () => undo(act) } } : {}),
        })
      } else toast.error(done.error)
      setAsking(null)
      setText('')
    })
  const leave = () => {
    setAsking(null)
    setEverybody(false)
  }
  const submit = () => {
    const said = text.trim()
    if (asking === 'reason out') return begin(async () => onPick('out', marked, said).then(() => leave()))
    if (said === '' || asking === null) return
    if (asking === 'tag') return write({ tag: said }, (n) => `Tagged ${count(n)} “${said}”.`, 'had it already')
    if (asking === 'untag') return write({ untag: said }, (n) => `Took the tag “${said}” from ${count(n)}.`, 'did not have it')
    return write({ note: said }, (n) => `Noted on ${count(n)}.`, 'are not in the directory any more')
  }
  return (
    <div
      role="toolbar"
      aria-label="With those chosen"
      className="sticky top-0 z-20 mt-2 flex flex-wrap items-center gap-2 rounded-md border border-rule bg-page px-3 py-1.5"
    >
      <b className="tabular-nums" data-testid="chosen">
        {count(many)} chosen
      </b>
      {!everybody && total !== null && total > chosen.size && (
        <button type="button" className="text-[13px] font-semibold text-verdigris" onClick={() => setEverybody(true)}>
          All {count(total)} instead
        </button>
      )}
      <button
        type="button"
        className="text-[13px] font-semibold text-verdigris"
        onClick={() => {
          setEverybody(false)
          onClear()
        }}
      >
        None
      </button>
      <span className="grow" />
      {asking ? (
        <form
          className="flex items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            submit()
          }}
        >
          <input
            autoFocus
            aria-label={ASKED[asking]}
            placeholder={ASKED[asking]}
            value={text}
            maxLength={asking === 'note' ? 2000 : 80}
            onChange={(e) => setText(e.target.value)}
          />
          <button type="submit" className="button button-main" disabled={busy}>
            Do it
          </button>
          <button type="button" className="button" onClick={() => setAsking(null)}>
            Leave it
          </button>
        </form>
      ) : (
        <>
          <button type="button" className="button" disabled={busy} onClick={() => begin(() => onPick('in', marked, '').then(leave))}>
            Keep on the list
          </button>
          <button type="button" className="button" disabled={busy} onClick={() => setAsking('reason out')}>
            Drop from the list
          </button>
          {subject === 'person' && (
            <DropdownMenu.Root>
              <DropdownMenu.Trigger className="button" disabled={busy}>
                More ▾
              </DropdownMenu.Trigger>
              <DropdownMenu.Portal>
                <DropdownMenu.Content className="floating p-1.5!" align="end" sideOffset={4}>
                  <DropdownMenu.Item className="menu-item" onSelect={() => setAsking('tag')}>
                    Tag them
                  </DropdownMenu.Item>
                  <DropdownMenu.Item className="menu-item" onSelect={() => setAsking('untag')}>
                    Take a tag away
                  </DropdownMenu.Item>
                  <DropdownMenu.Item className="menu-item" onSelect={() => setAsking('note')}>
                    Write a note on each
                  </DropdownMenu.Item>
                  <DropdownMenu.Sub>
                    <DropdownMenu.SubTrigger className="menu-item">Give them to</DropdownMenu.SubTrigger>
                    <DropdownMenu.Portal>
                      <DropdownMenu.SubContent className="floating p-1.5!" sideOffset={6}>
                        {team.map((t) => (
                          <DropdownMenu.Item
                            key={t.id}
                            className="menu-item"
                            onSelect={() => write({ holder: t.name }, (n) => `Gave ${count(n)} to ${t.name}.`, `were ${t.name}’s already`)}
                          >
                            {t.name}
                          </DropdownMenu.Item>
                        ))}
                      </DropdownMenu.SubContent>
                    </DropdownMenu.Portal>
                  </DropdownMenu.Sub>
                  {hand && hand.subject === subject && !everybody && (
                    <DropdownMenu.Item className="menu-item" onSelect={() => begin(() => put('in', { of: subject, ids }))}>
                      Put them on “{hand.name}”
                    </DropdownMenu.Item>
                  )}
                </DropdownMenu.Content>
              </DropdownMenu.Portal>
            </DropdownMenu.Root>
          )}
        </>
      )}
    </div>
  )
}

const ASKED = { tag: 'Tag', untag: 'Tag to take away', note: 'Note', 'reason out': 'Why they are dropped' } as const

'use client'

import { useEffect, useRef, useState, useTransition } from 'react'
import { toast } from 'sonner'
import { FRESHNESS } from '@/core/changes/freshness'
import type { ActionResult } from '@/core/views/action-result'
import type { ChangeRow, ChangesPage } from '@/core/views/change-views'
import { useBook } from '@/ui/book/book'
import { day } from '@/ui/book/figures'
import { RecordBeside } from '@/ui/directory/record-beside'
import type { ChangeActions } from './change-actions'
import { ChangeItem, type Pressed } from './change-item'
import { recordPath } from './change-words'
import { ContactDialog } from './contact-dialog'

const KEYS: Record<string, Pressed> = {
  t: 'take',
  d: 'handle',
  p: 'put off',
  x: 'set aside',
  c: 'contact',
  l: 'list',
  y: 'confirm',
  n: 'turn down',
  enter: 'open',
}

/** The list of changes, gone through with the arrows and one key each. */
export function ChangeList({ page, actions, again }: { page: ChangesPage; actions: ChangeActions; again: () => Promise<unknown> }) {
  const { hand, put } = useBook()
  const list = useRef<HTMLDivElement>(null)
  // Kept by its number: changes come in above it, and colleagues settle others, while somebody looks at it.
  const [at, setAt] = useState<{ index: number; id: number | null }>({ index: 0, id: null })
  const [beside, setBeside] = useState<ChangeRow | null>(null)
  const [contacting, setContacting] = useState<ChangeRow | null>(null)
  const [busy, begin] = useTransition()
  const { rows } = page
  const found = rows.findIndex(({ id }) => id === at.id)
  const current = found >= 0 ? found : Math.min(at.index, rows.length - 1)
  const focus = (next: number) => {
    setAt({ index: next, id: rows[next]?.id ?? null })
    list.current?.querySelectorAll<HTMLElement>('[data-change]')[next]?.focus()
  }
  const undone = (result: ActionResult<unknown>) => {
    if (!result.ok) toast.error(result.error)
    return again()
  }
  const settle = (row: ChangeRow, work: () => Promise<ActionResult<unknown>>, said: string, back?: () => Promise<ActionResult<unknown>>) =>
    begin(async () => {
      const done = await work()
      if (!done.ok) {
        toast.error(done.error)
        await again()
        return
      }
      toast.success(
        `${row.name}: ${said}`,
        back ? { duration: 12_000, action: { label: 'Undo', onClick: () => void back().then(undone) } } : {},
      )
      await again()
      // The next one stands where this one stood.
      requestAnimationFrame(() => focus(Math.min(current, Math.max(0, list.current?.querySelectorAll('[data-change]').length ?? 1) - 1)))
    })
  const putOff = (row: ChangeRow, days: number) => {
    const until = new Date(`${page.today}T12:00:00Z`)
    until.setUTCDate(until.getUTCDate() + days)
    const date = until.toISOString().slice(0, 10)
    settle(
      row,
      () => actions.putOff(row.id, date),
      `put off until ${day(until.toISOString())}, for you alone.`,
      () => actions.putOff(row.id, null),
    )
  }
  const press = (row: ChangeRow, what: Pressed) => {
    if (busy) return
    const mine = row.mine && row.state === 'taken'
    switch (what) {
      case 'take':
        return settle(
          row,
          () => actions.act(row.id, mine ? 'let go' : 'take'),
          mine ? 'let go.' : 'taken. Colleagues see that it is yours.',
          () => actions.act(row.id, mine ? 'take' : 'let go'),
        )
      case 'handle':
        return settle(
          row,
          () => actions.act(row.id, 'handle'),
          'done.',
          () => actions.act(row.id, 'reopen'),
        )
      case 'set aside':
        return settle(
          row,
          () => actions.act(row.id, 'set aside'),
          'set aside, for the whole team.',
          () => actions.act(row.id, 'reopen'),
        )
      case 'put off':
        return putOff(row, 7)
      case 'confirm':
        if (row.decide === null) return
        return settle(
          row,
          () => actions.decide(row.id, 'confirm'),
          'confirmed; the record says so now.',
          () => actions.undecide(row.id),
        )
      case 'turn down':
        if (row.decide === null) return
        return settle(
          row,
          () => actions.decide(row.id, 'turn down'),
          'turned down; the record stays as it is.',
          () => actions.act(row.id, 'reopen'),
        )
      case 'contact':
        if (row.of === 'person') setContacting(row)
        return
      case 'list':
        if (hand) begin(() => put('in', { of: row.of, ids: [row.record] }))
        return
      case 'open':
        setBeside(row)
    }
  }
  const keys = useRef<(event: KeyboardEvent) => void>(() => {})
  useEffect(() => {
    keys.current = (event) => {
      const target = event.target as HTMLElement
      if (event.ctrlKey || event.metaKey || event.altKey || target.closest('input, textarea, select, [role="menu"], [role="dialog"]'))
        return
      const row = rows[current]
      if (!row) return
      const key = event.key.toLowerCase()
      if (key === 'arrowdown' || key === 'arrowup') {
        if (!target.closest('[data-change]') && target !== document.body) return
        event.preventDefault()
        focus(Math.min(rows.length - 1, Math.max(0, current + (key === 'arrowdown' ? 1 : -1))))
        return
      }
      const what = KEYS[key]
      // Enter on a button or a link is theirs.
      if (!what || (key === 'enter' && target.closest('button, a'))) return
      event.preventDefault()
      // The one that was looked at is gone: another is not settled before it is looked at.
      if (at.id !== null && found < 0) return focus(current)
      press(row, what)
    }
  })
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => keys.current(event)
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  }, [])
  if (rows.length === 0)
    return (
      <p className="mt-4 text-soft">
        Nothing is unhandled here. Changes come from files you import, from contacts you record, and from what is reported on a record’s
        page.
      </p>
    )
  return (
    <div ref={list}>
      {FRESHNESS.map((freshness) => {
        const group = rows.map((row, i) => ({ row, i })).filter(({ row }) => row.freshness === freshness)
        if (group.length === 0) return null
        return (
          <section key={freshness} aria-label={freshness === 'gone' ? 'Gone' : freshness === 'fresh' ? 'Fresh' : 'Fading'}>
            <h2 className="mt-3 border-b border-strong pb-1 font-sans text-[12.5px] font-semibold text-soft">
              {freshness === 'gone' ? 'Gone: too old to start from' : freshness === 'fresh' ? 'Fresh' : 'Fading'}
            </h2>
            <ul>
              {group.map(({ row, i }) => (
                <ChangeItem
                  key={row.id}
                  row={row}
                  current={i === current}
                  busy={busy}
                  hand={hand && hand.subject === row.of ? hand.name : null}
                  onFocus={() => setAt({ index: i, id: row.id })}
                  onDo={(what) => press(row, what)}
                  onPutOff={(days) => putOff(row, days)}
                />
              ))}
            </ul>
          </section>
        )
      })}
      {beside && (
        <RecordBeside
          subject={beside.of}
          record={{
            id: beside.record,
            title: beside.name,
            under: beside.organisation ?? '',
            href: recordPath(beside.of, beside.record),
            person: null,
          }}
          onClose={() => {
            setBeside(null)
            focus(current)
          }}
        />
      )}
      {contacting && (
        <ContactDialog
          name={contacting.name}
          person={contacting.record}
          contact={actions.contact}
          onClose={() => {
            setContacting(null)
            void again()
          }}
        />
      )}
    </div>
  )
}

'use client'

import Link from 'next/link'
import { useEffect, useRef, useState, useTransition } from 'react'
import { toast } from 'sonner'
import { ASKS, ASKS_NAME, type Asks } from '@/core/changes/asks'
import { FRESHNESS, type Freshness } from '@/core/changes/freshness'
import { timeText } from '@/core/text/written'
import { CHANGE_TABS, type ChangeRow, type ChangesPage, type ChangeTab } from '@/core/views/change-views'
import { useAsked } from '@/ui/book/asking'
import { useBook, useNews } from '@/ui/book/book'
import { count, day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { TabRow } from '@/ui/book/tab-row'
import { useViewInAddress } from '@/ui/book/view-in-address'
import { RecordBeside } from '@/ui/directory/record-beside'
import type { ChangeActions } from './change-actions'
import { ChangeItem, type Pressed } from './change-item'
import { recordPath } from './change-words'
import { ChangesAccountTable, ChangesBy } from './changes-account'
import { ContactDialog } from './contact-dialog'

type View = { tab: ChangeTab; list?: number; freshness?: Freshness; offset?: number }

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

/** Changes: the account since one last looked on the left, what is unhandled on the right, the most useful first, each done with one key. */
export function ChangesScreen({ first, actions }: { first: ChangesPage; actions: ChangeActions }) {
  const [view, setView] = useViewInAddress<View>({ tab: 'all' }, (asked) => ({
    tab: CHANGE_TABS.find((tab) => tab === asked.tab) ?? 'all',
    list: /^\d{1,15}$/.test(asked.list ?? '') ? Number(asked.list) : undefined,
    freshness: FRESHNESS.find((own) => own === asked.freshness),
    offset: /^\d{1,9}$/.test(asked.offset ?? '') ? Number(asked.offset) : undefined,
  }))
  const [by, setBy] = useState<'list' | 'freshness' | null>(null)
  const body = { tab: view.tab, list: view.list ?? null, freshness: view.freshness ?? null, offset: view.offset ?? 0 }
  const plain = view.tab === 'all' && !view.list && !view.freshness && !view.offset
  const {
    answer: page = first,
    told,
    again,
  } = useAsked<ChangesPage>(['/api/changes', body], {
    ...(plain ? { first } : {}),
    hold: true,
    every: ({ reading }) => (reading ? 1500 : false),
    failed: 'The changes could not be shown just now.',
  })
  useNews((news) => {
    if (news.is === 'data') void again()
  })
  const [busy, begin] = useTransition()
  const look = () =>
    begin(async () => {
      const done = await actions.looked()
      if (!done.ok) return void toast.error(done.error)
      await again()
    })
  return (
    <Spread
      width="500px"
      label={{ left: 'The account of your changes', right: 'Changes' }}
      left={
        <>
          <h1>Changes</h1>
          <p className="quiet">
            {page.lookedAt
              ? `Since you last looked, ${day(page.lookedAt)}, ${timeText(new Date(page.lookedAt))}`
              : 'You have not looked before'}{' '}
            · through {count(page.following.lists)} {page.following.lists === 1 ? 'list' : 'lists'}
            {page.following.records > 0 && ` and ${count(page.following.records)} ${page.following.records === 1 ? 'record' : 'records'}`}{' '}
            you follow
          </p>
          {page.reading && (
            <p className="quiet" role="status">
              New changes are being read.
            </p>
          )}
          <ChangesAccountTable
            page={page}
            asks={view.tab === 'all' ? null : view.tab}
            onAsks={(asks) => setView({ tab: asks ?? 'all', list: view.list, freshness: view.freshness })}
          />
          <div className="mt-4 flex flex-wrap gap-2">
            <button type="button" className="button" aria-pressed={by === 'list'} onClick={() => setBy(by === 'list' ? null : 'list')}>
              By list
            </button>
            <button
              type="button"
              className="button"
              aria-pressed={by === 'freshness'}
              onClick={() => setBy(by === 'freshness' ? null : 'freshness')}
            >
              By freshness
            </button>
            <Link href="/changes/following" className="button">
              What you follow
            </Link>
            <button
              type="button"
              className="button"
              disabled={busy}
              onClick={look}
              title="Close this account; the next one opens with what is left"
            >
              Start a new account
            </button>
          </div>
          {by && (
            <ChangesBy
              page={page}
              by={by}
              list={view.list ?? null}
              freshness={view.freshness ?? null}
              onList={(list) => setView({ ...view, list: list ?? undefined, offset: undefined })}
              onFreshness={(freshness) => setView({ ...view, freshness: freshness ?? undefined, offset: undefined })}
            />
          )}
        </>
      }
      right={
        <>
          <TabRow
            label="What the changes ask"
            open={view.tab}
            onOpen={(tab) => setView({ tab: tab as ChangeTab, list: view.list, freshness: view.freshness })}
            tabs={[
              { key: 'all', title: 'All', total: ASKS.reduce((sum, asks) => sum + page.asks[asks], 0) },
              ...ASKS.filter((asks) => asks !== 'lead' || page.asks.lead > 0).map((asks: Asks) => ({
                key: asks,
                title: ASKS_NAME[asks],
                total: page.asks[asks],
              })),
            ]}
          />
          {(view.list || view.freshness) && (
            <p className="mt-2">
              Only {view.freshness ?? 'those'}
              {view.list ? ` of ${page.lists.find((own) => own.id === view.list)?.name ?? 'one list'}` : ''}, {count(page.total)}.{' '}
              <button type="button" className="font-semibold text-verdigris hover:underline" onClick={() => setView({ tab: view.tab })}>
                Show all
              </button>
            </p>
          )}
          {told && <p className="told mt-2">{told}</p>}
          <Changes page={page} actions={actions} again={again} />
          {page.total > page.rows.length && (
            <p className="mt-3 flex items-center gap-3">
              {count((view.offset ?? 0) + 1)} to {count((view.offset ?? 0) + page.rows.length)} of {count(page.total)}
              {(view.offset ?? 0) > 0 && (
                <button type="button" className="button" onClick={() => setView({ ...view, offset: undefined })}>
                  First page
                </button>
              )}
              {(view.offset ?? 0) + page.rows.length < page.total && (
                <button
                  type="button"
                  className="button"
                  onClick={() => setView({ ...view, offset: (view.offset ?? 0) + page.rows.length })}
                >
                  Next page
                </button>
              )}
            </p>
          )}
        </>
      }
    />
  )
}

/** The list of changes, gone through with the arrows and one key each. */
function Changes({ page, actions, again }: { page: ChangesPage; actions: ChangeActions; again: () => Promise<unknown> }) {
  const { hand, put } = useBook()
  const list = useRef<HTMLDivElement>(null)
  const [at, setAt] = useState(0)
  const [beside, setBeside] = useState<ChangeRow | null>(null)
  const [contacting, setContacting] = useState<ChangeRow | null>(null)
  const [busy, begin] = useTransition()
  const { rows } = page
  const current = Math.min(at, rows.length - 1)
  const focus = (next: number) => {
    setAt(next)
    list.current?.querySelectorAll<HTMLElement>('[data-change]')[next]?.focus()
  }
  const settle = (row: ChangeRow, work: () => Promise<{ ok: boolean; error?: string }>, said: string, back?: () => Promise<unknown>) =>
    begin(async () => {
      const done = await work()
      if (!done.ok) {
        toast.error(done.error)
        await again()
        return
      }
      toast.success(
        `${row.name}: ${said}`,
        back ? { duration: 12_000, action: { label: 'Undo', onClick: () => void back().then(again) } } : {},
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
        return settle(row, () => actions.decide(row.id, 'confirm'), 'confirmed; the record says so now.')
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
                  onFocus={() => setAt(i)}
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

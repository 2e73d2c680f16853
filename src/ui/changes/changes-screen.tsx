'use client'

import Link from 'next/link'
import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import { ASKS, ASKS_NAME, type Asks } from '@/core/changes/asks'
import { FRESHNESS, type Freshness } from '@/core/changes/freshness'
import { timeText } from '@/core/text/written'
import { CHANGE_TABS, type ChangesPage, type ChangeTab } from '@/core/views/change-views'
import { useAsked } from '@/ui/book/asking'
import { useNews } from '@/ui/book/book'
import { count, day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { TabRow } from '@/ui/book/tab-row'
import { useViewInAddress } from '@/ui/book/view-in-address'
import type { ChangeActions } from './change-actions'
import { ChangeList } from './change-list'
import { ChangesAccountTable, ChangesBy } from './changes-account'

type View = { tab: ChangeTab; list?: number; freshness?: Freshness; offset?: number }

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
            <Link href="/changes/movement" className="button" prefetch={false}>
              Movement of people
            </Link>
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
          <ChangeList page={page} actions={actions} again={again} />
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

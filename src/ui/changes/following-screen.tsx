'use client'

import Link from 'next/link'
import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import { ASKS_NAME } from '@/core/changes/asks'
import { OPENER_WORDS } from '@/core/changes/opener'
import type { ActionResult } from '@/core/views/action-result'
import type { FollowingView, KindView } from '@/core/views/change-views'
import { FEED_OUTCOMES, type FeedOutcome } from '@/core/changes/feed'
import { timeText } from '@/core/text/written'
import { count, day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { ImportChanges } from './import-changes'
import type { FollowActions } from './change-actions'
import { recordPath } from './change-words'

/** What one follows on the left, and the kinds of changes on the right: what each asks, how long it stays useful, and its opener. */
export function FollowingScreen({ view, maySet, actions }: { view: FollowingView; maySet: boolean; actions: FollowActions }) {
  const [busy, begin] = useTransition()
  const [open, setOpen] = useState<number | 'new' | null>(null)
  const run = (work: () => Promise<ActionResult<unknown>>) =>
    begin(async () => {
      const done = await work()
      if (!done.ok) toast.error(done.error)
    })
  return (
    <Spread
      width="430px"
      label={{ left: 'What you follow', right: 'Kinds of changes' }}
      left={
        <>
          <p className="quiet">
            <Link href="/changes">Changes</Link>
          </p>
          <h1>What you follow</h1>
          <p className="quiet">
            You hear of changes of everybody on these lists, and of records you follow by themselves. Nobody learns that you follow them.
          </p>
          <h2 className="mt-4">Lists</h2>
          <ul className="mt-1 grid gap-1">
            {view.lists.map((list) => (
              <li key={list.id}>
                <label className="flex items-baseline gap-2">
                  <input
                    type="checkbox"
                    checked={list.following}
                    disabled={busy}
                    onChange={(event) => run(() => actions.followList(list.id, event.target.checked))}
                  />
                  <span>
                    {list.name}
                    {list.onlyFollow && <span className="quiet"> only for following</span>}
                  </span>
                </label>
              </li>
            ))}
            {view.lists.length === 0 && <li className="quiet">No list is shared with you yet.</li>}
          </ul>
          <h2 className="mt-4">Records</h2>
          {view.records.length === 0 && <p className="quiet">None. Open a record and choose Follow.</p>}
          <ul className="mt-1 grid gap-1">
            {view.records.map((record) => (
              <li key={`${record.of} ${record.id}`} className="flex items-baseline justify-between gap-2">
                <Link prefetch={false} href={recordPath(record.of, record.id)}>
                  {record.name}
                </Link>
                <button
                  type="button"
                  className="button px-2! py-0.5!"
                  disabled={busy}
                  aria-label={`Stop following ${record.name}`}
                  onClick={() => run(() => actions.followRecord(record.of, record.id, false))}
                >
                  Stop
                </button>
              </li>
            ))}
          </ul>
          <Feeds feeds={view.feeds} busy={busy} read={maySet ? () => run(actions.readFeeds) : null} />
          {maySet && <ImportChanges />}
          <form
            className="mt-5 flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault()
              const days = Number(new FormData(event.currentTarget).get('days'))
              run(() => actions.reach(days))
            }}
          >
            <label className="field">
              <span>When you begin to follow a list, changes of the last … days reach you</span>
              <input name="days" type="number" min={0} max={3650} defaultValue={view.reachDays} key={view.reachDays} />
            </label>
            <button type="submit" className="button" disabled={busy}>
              Save
            </button>
          </form>
        </>
      }
      right={
        <>
          <div className="flex items-baseline justify-between">
            <h2>Kinds of changes</h2>
            {maySet && (
              <button type="button" className="button px-2! py-0.5!" onClick={() => setOpen(open === 'new' ? null : 'new')}>
                Add a kind
              </button>
            )}
          </div>
          <p className="quiet">For the whole team, but for what you mute: that is yours alone.</p>
          {open === 'new' && <KindForm kind={null} busy={busy} actions={actions} run={run} onDone={() => setOpen(null)} />}
          <table className="people mt-2">
            <colgroup>
              <col className="w-[48%]" />
              <col className="w-[13%]" />
              <col className="w-[12%]" />
              <col className="w-[10%]" />
              <col />
            </colgroup>
            <thead>
              <tr>
                <th scope="col">Kind</th>
                <th scope="col">Asks</th>
                <th scope="col">Fresh for</th>
                <th scope="col">Changes</th>
                <th scope="col">
                  <span className="sr-only">What to do</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {view.kinds.map((kind) => (
                <tr key={kind.id}>
                  <td>
                    {kind.name}
                    {kind.opener && <span className="quiet block">“{kind.opener}”</span>}
                    {open === kind.id && <KindForm kind={kind} busy={busy} actions={actions} run={run} onDone={() => setOpen(null)} />}
                  </td>
                  <td>{ASKS_NAME[kind.asks]}</td>
                  <td>{kind.freshDays === null ? 'always' : `${count(kind.freshDays)} days`}</td>
                  <td>{count(kind.changes)}</td>
                  <td>
                    <span className="flex flex-wrap gap-1.5">
                      <button
                        type="button"
                        className="button px-2! py-0.5!"
                        aria-pressed={kind.muted}
                        aria-label={`Mute ${kind.name}`}
                        disabled={busy}
                        onClick={() => run(() => actions.muteKind(kind.id, !kind.muted))}
                      >
                        {kind.muted ? 'Muted' : 'Mute'}
                      </button>
                      {maySet && (
                        <button
                          type="button"
                          className="button px-2! py-0.5!"
                          aria-label={`Change ${kind.name}`}
                          onClick={() => setOpen(open === kind.id ? null : kind.id)}
                        >
                          Change
                        </button>
                      )}
                    </span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      }
    />
  )
}

const OUTCOME: Record<FeedOutcome, string> = {
  reported: 'reported',
  known: 'known already',
  'nobody here': 'about nobody in the directory',
  'in doubt': 'could be about several records',
  refused: 'could not be read',
}

/** The outside feeds: how much each sent, and what became of it. */
function Feeds({ feeds, busy, read }: { feeds: FollowingView['feeds']; busy: boolean; read: (() => void) | null }) {
  return (
    <>
      <h2 className="mt-4">Feeds</h2>
      {feeds.length === 0 && <p className="quiet">No feed has been read yet. They are read every quarter of an hour.</p>}
      {feeds.map((feed) => (
        <p key={feed.name} className="mt-1">
          <b className="font-semibold">{feed.name}</b>{' '}
          <span className="quiet">
            {feed.readAt ? `read ${day(feed.readAt)}, ${timeText(new Date(feed.readAt))}` : 'not read yet'}
            {FEED_OUTCOMES.flatMap((outcome) =>
              feed.outcomes[outcome] ? [` · ${count(feed.outcomes[outcome])} ${OUTCOME[outcome]}`] : [],
            )}
          </span>
          {feed.error && <span className="block text-madder">{feed.error} It is tried again at its next turn; nothing is lost.</span>}
        </p>
      ))}
      {read && (
        <button type="button" className="button mt-1.5 px-2! py-0.5!" disabled={busy} onClick={read}>
          Read feeds now
        </button>
      )}
    </>
  )
}

function KindForm({
  kind,
  busy,
  actions,
  run,
  onDone,
}: {
  kind: KindView | null
  busy: boolean
  actions: FollowActions
  run: (work: () => Promise<ActionResult<unknown>>) => void
  onDone: () => void
}) {
  const [told, setTold] = useState<string | null>(null)
  return (
    <form
      className="mt-2 grid gap-2.5 rounded-lg border border-rule bg-leaf p-3"
      aria-label={kind ? `Change ${kind.name}` : 'Add a kind'}
      onSubmit={(event) => {
        event.preventDefault()
        const form = new FormData(event.currentTarget)
        const days = String(form.get('days') ?? '')
        run(async () => {
          const done = await actions.saveKind(kind?.id ?? null, {
            name: form.get('name'),
            asks: form.get('asks'),
            freshDays: days === '' ? null : Number(days),
            opener: form.get('opener') || null,
          })
          setTold(done.ok ? null : done.error)
          if (done.ok) onDone()
          return { ok: true, value: null }
        })
      }}
    >
      <label className="field">
        <span>Name</span>
        <input name="name" required maxLength={60} defaultValue={kind?.name} />
      </label>
      <div className="grid grid-cols-2 gap-2.5">
        <label className="field">
          <span>What it asks of us</span>
          <select name="asks" defaultValue={kind?.asks ?? 'opening'}>
            {(['confirm', 'answer', 'reconsider', 'opening'] as const).map((asks) => (
              <option key={asks} value={asks}>
                {ASKS_NAME[asks]}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>Fresh for so many days; empty: always</span>
          <input name="days" type="number" min={1} max={3650} defaultValue={kind?.freshDays ?? ''} />
        </label>
      </div>
      <label className="field">
        <span>Opener: it can name {OPENER_WORDS.map((word) => `{${word}}`).join(', ')}</span>
        <input name="opener" maxLength={400} defaultValue={kind?.opener ?? ''} />
      </label>
      <div className="flex gap-2">
        <button type="submit" className="button button-main" disabled={busy}>
          Save kind
        </button>
        <button type="button" className="button" onClick={onDone}>
          Cancel
        </button>
        {kind?.own && (
          <button
            type="button"
            className="button ml-auto"
            disabled={busy}
            onClick={() =>
              run(async () => {
                const done = await actions.archiveKind(kind.id)
                if (done.ok) onDone()
                return done
              })
            }
          >
            Take out of use
          </button>
        )}
      </div>
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
    </form>
  )
}

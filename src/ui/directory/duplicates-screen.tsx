'use client'

import Link from 'next/link'
import { useEffect, useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { DoublesPage, PairView } from '@/core/views/record-views'
import { useAsked } from '@/ui/book/asking'
import { count, day } from '@/ui/book/figures'
import { PairTable } from './pair-table'
import { Spread } from '@/ui/book/spread'
import { type TakeBackMerge, tellWhatStays } from './take-back-merge'

export interface DoublesActions {
  lookForDoubles: () => Promise<ActionResult<unknown>>
  decide: (a: number, b: number, decision: { same: number } | 'different') => Promise<ActionResult<unknown>>
  reopen: (a: number, b: number) => Promise<ActionResult<unknown>>
  takeBack: TakeBackMerge
}

interface Done {
  said: string
  back: () => Promise<ActionResult<unknown>>
}

/** Records that may be one: the account of the search on the left, two of them side by side on the right, decided with one key. */
export function DoublesScreen({ first, actions }: { first: DoublesPage; actions: DoublesActions | null }) {
  const {
    answer: page = first,
    told: notShown,
    again: refresh,
  } = useAsked<DoublesPage>(['/api/doubles'], {
    first,
    every: ({ search }) => (search?.state === 'queued' || search?.state === 'running' ? 900 : false),
    failed: 'The queue could not be shown just now.',
  })
  const [later, setLater] = useState<ReadonlySet<string>>(new Set())
  const [kept, setKept] = useState<{ of: string; id: number } | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const [done, setDone] = useState<Done | null>(null)
  const [busy, begin] = useTransition()
  const { search } = page
  const under = search?.state === 'queued' || search?.state === 'running'
  const waiting = page.pairs.filter((p) => !later.has(`${p.a} ${p.b}`))
  const current = waiting[0] ?? page.pairs[0]
  const key = current ? `${current.a} ${current.b}` : ''
  const { answer: pair = null, told: pairNotShown } = useAsked<PairView>(current ? [`/api/doubles?a=${current.a}&b=${current.b}`] : null, {
    failed: 'The two records could not be shown.',
  })
  // The one with the longer history stays unless another is chosen, the older where they are even.
  const keep = pair === null ? null : kept?.of === key ? kept.id : pair.b.entries > pair.a.entries ? pair.b.id : pair.a.id
  const setKeep = (id: number) => setKept({ of: key, id })
  const wrong = told ?? notShown ?? pairNotShown

  const takenBack = async (merged: number): Promise<ActionResult<unknown>> => {
    const result = await (actions as DoublesActions).takeBack(merged)
    if (result.ok) tellWhatStays(result.value)
    return result
  }
  const decide = (same: boolean) => {
    if (!pair || !actions || keep === null) return
    const { a, b } = pair
    const other = keep === a.id ? b : a
    begin(async () => {
      const result = await actions.decide(a.id, b.id, same ? { same: keep } : 'different')
      setTold(result.ok ? null : result.error)
      if (result.ok) {
        setDone(
          same
            ? { said: `${other.name} went into ${keep === a.id ? a.name : b.name}.`, back: () => takenBack(other.id) }
            : { said: `${a.name} and ${b.name} are two.`, back: () => actions.reopen(a.id, b.id) },
        )
      }
      await refresh()
    })
  }
  const look = () =>
    begin(async () => {
      const result = await actions?.lookForDoubles()
      setTold(!result || result.ok ? null : result.error)
      await refresh()
    })
  const next = () => setLater((before) => (waiting.length > 1 ? new Set([...before, key]) : new Set()))
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || busy || (event.target as HTMLElement).closest('input, textarea, select')) return
      const pressed = event.key.toLowerCase()
      if (pressed === 's' && actions) decide(true)
      else if (pressed === 'd' && actions) decide(false)
      else if (pressed === 'n') next()
      else return
      event.preventDefault()
    }
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  })

  return (
    <Spread
      width="500px"
      label={{ left: 'The account of the search', right: 'Two records' }}
      left={
        <>
          <h1>Duplicates</h1>
          <p className="quiet">
            Records that may be the same. Names are compared allowing for typing errors and nicknames, then organisation, address, phone and
            email. How much each counts is learned from your own records.
          </p>
          {actions && (
            <button type="button" className="button mt-3" disabled={busy || under} onClick={look}>
              {under ? 'Searching for duplicates' : search ? 'Search again' : 'Find duplicates'}
            </button>
          )}
          {under && search && (
            <div className="mt-3" role="status">
              <progress className="w-full" value={search.done} max={1} aria-label="Records compared" />
              <p className="quiet">
                {search.people === null ? 'It waits its turn.' : `${count(search.people)} people are being compared.`} You can leave this
                page; it goes on.
              </p>
            </div>
          )}
          {wrong && (
            <p role="alert" className="told mt-3">
              {wrong}
            </p>
          )}
          {done && (
            <p role="status" className="said mt-3 flex items-center justify-between gap-3">
              <span>{done.said}</span>
              <button
                type="button"
                className="button px-2! py-0.5!"
                disabled={busy}
                onClick={() =>
                  begin(async () => {
                    const result = await done.back()
                    setTold(result.ok ? null : result.error)
                    if (result.ok) setDone(null)
                    await refresh()
                  })
                }
              >
                Take it back
              </button>
            </p>
          )}
          {search?.state === 'done' && (
            <table className="account mt-4" aria-label="Account of the search">
              <thead>
                <tr>
                  <th scope="col">What was found</th>
                  <th scope="col" className="figure balance">
                    Pairs
                  </th>
                </tr>
              </thead>
              <tbody>
                <Row title="Almost certain" what="not decided yet" value={page.sure} />
                <Row title="In doubt" what="not decided yet" value={page.open - page.sure} />
                <Row title="One" what="decided, and merged" value={page.same} />
                <Row title="Two" what="decided, and not asked about again" value={page.different} />
              </tbody>
            </table>
          )}
          {search?.state === 'done' && (
            <p className="quiet mt-2">
              Searched {day(search.at)} by {search.by}: {count(search.people)} people, {count(search.compared)} pairs compared.
            </p>
          )}
          {page.pairs.length > 0 && (
            <ol className="mt-4" aria-label="Pairs to review">
              {waiting.slice(0, 12).map((p) => (
                <li
                  key={`${p.a} ${p.b}`}
                  className={`flex justify-between gap-3 border-b border-rule py-1.5 ${`${p.a} ${p.b}` === key ? 'font-semibold' : ''}`}
                >
                  <span className="min-w-0 break-words">
                    {p.aName} · {p.bName}
                  </span>
                  <span className="tabular-nums whitespace-nowrap text-soft">{chanceText(p.chance)}</span>
                </li>
              ))}
            </ol>
          )}
        </>
      }
      right={
        !current ? (
          <p className="mt-6 text-soft">
            {search?.state === 'done' ? 'No pairs to review.' : under ? 'Results appear here.' : 'Nobody has searched yet.'}
          </p>
        ) : (
          <>
            <h2>One record or two?</h2>
            {pair && keep !== null && (
              <>
                <PairTable pair={pair} keep={keep} onKeep={actions ? setKeep : undefined} />
                <div className="mt-4 flex flex-wrap items-center gap-2">
                  {actions && (
                    <>
                      <button
                        type="button"
                        className="button button-main"
                        disabled={busy}
                        onClick={() => decide(true)}
                        aria-keyshortcuts="s"
                      >
                        One record <kbd>S</kbd>
                      </button>
                      <button type="button" className="button" disabled={busy} onClick={() => decide(false)} aria-keyshortcuts="d">
                        Two records <kbd>D</kbd>
                      </button>
                    </>
                  )}
                  <button type="button" className="button" disabled={busy} onClick={next} aria-keyshortcuts="n">
                    Later <kbd>N</kbd>
                  </button>
                  <span className="quiet">{chanceText(pair.chance)} likely one</span>
                </div>
                {!actions && <p className="quiet mt-2">Coordinators and managers decide.</p>}
                <p className="quiet mt-2">
                  The record that stays takes over what it lacks. The history and suppressions of both then count for it. You can undo this
                  here or on the page of{' '}
                  <Link prefetch={false} href={`/directory/people/${keep === pair.a.id ? pair.b.id : pair.a.id}`}>
                    the one that went
                  </Link>
                  .
                </p>
              </>
            )}
          </>
        )
      }
    />
  )
}

const chanceText = (chance: number): string => (chance > 0.9995 ? 'over 99.9 %' : `${(chance * 100).toFixed(chance > 0.99 ? 1 : 0)} %`)

function Row({ title, what, value }: { title: string; what: string; value: number }) {
  return (
    <tr>
      <td>
        <b>{title}</b>
        <span className="quiet block">{what}</span>
      </td>
      <td className="figure balance">{count(value)}</td>
    </tr>
  )
}

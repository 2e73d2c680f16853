'use client'

import { useViewInAddress } from '@/ui/book/view-in-address'
import { MakeList } from '@/ui/book/make-list'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import { type EnquiryView, ITEM_STATES, type ItemState } from '@/core/sources/enquiry'
import { SOURCES } from '@/core/sources/source'
import { useAsked } from '@/ui/book/asking'
import { ENQUIRY_STATE } from './enquiry-index'
import { EnquiryItems } from './enquiry-items'
import { count, day, Figure } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { timeText } from '@/ui/book/time-left'
import { TryOnList } from './try-on-list'
import type { TriedView } from '@/core/sources/tried'
import { Cost, TooMany } from './enquiry-cost'
import type { Channel, EnquiryActions } from './enquiry-actions'

type Tone = 'in' | 'out' | 'unknown' | 'plain'

/** The lines of an enquiry's account, by what it is for. */
const LINES: Record<EnquiryView['kind'], [state: ItemState, title: string, what: string, tone: Tone][]> = {
  find: [
    ['known', 'Had already', 'not paid for', 'plain'],
    ['left out', 'Left out', 'by channel or by a list', 'out'],
    ['open', 'Could come in', 'not paid for yet', 'in'],
    ['fetched', 'Came', 'paid for, and kept here', 'in'],
    ['nothing', 'Gone', 'no longer at the source', 'unknown'],
  ],
  fill: [
    ['known', 'Nothing to fill', 'already known, not paid for', 'plain'],
    ['left out', 'Nothing to ask by', 'neither email, profile, nor name and organisation', 'out'],
    ['open', 'To be asked about', 'not paid for yet', 'plain'],
    ['verified', 'Found and verified', '', 'in'],
    ['uncertain', 'Found, uncertain', 'their mail domain takes any name', 'unknown'],
    ['nothing', 'Nothing found', 'nothing missing was found, not paid for', 'out'],
  ],
  check: [
    ['known', 'Checked not long ago', 'the last check still counts, not paid for', 'plain'],
    ['open', 'To be checked', 'not paid for yet', 'plain'],
    ['verified', 'Verified', 'they take mail', 'in'],
    ['uncertain', 'Uncertain', 'the domain takes mail for any name', 'unknown'],
    ['bad', 'Bad', 'they take none, and are closed', 'out'],
    ['nothing', 'No answer', 'the source said nothing about them', 'unknown'],
  ],
}

/** What is shown until something else is chosen, the most telling first. */
const SHOWN_FIRST: readonly ItemState[] = ['fetched', 'verified', 'open', 'bad', 'uncertain', 'left out', 'nothing', 'known']

const isUnder = (state: EnquiryView['state']): boolean => state === 'running' || state === 'asking'

/** An enquiry to an outside source: its account and what it costs on the left, what came on the right. */
export function EnquiryScreen({
  first,
  lists,
  actions,
}: {
  first: EnquiryView
  /** Lists on which what was found can be tried before it is bought. */
  lists: { id: number; name: string }[]
  actions: EnquiryActions | null
}) {
  const [view, setView] = useViewInAddress<{ items?: ItemState }>({}, ({ items }) => {
    const known = ITEM_STATES.find((state) => state === items)
    return known ? { items: known } : null
  })
  const chosen = view.items ?? null
  const setChosen = (items: ItemState | null) => setView(items === null ? {} : { items })
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const router = useRouter()
  const { answer: e = first, again: refresh } = useAsked<EnquiryView>([`/api/enquiries/${first.id}`], {
    first,
    every: ({ state }) => (isUnder(state) ? 700 : false),
  })
  const under = isUnder(e.state)
  const [list, setList] = useState<number | null>(null)
  const mayTry = e.asked.kind === 'find' && !under && e.batch === null && actions !== null && e.counts.open + e.counts['left out'] > 0
  const { answer: tried, told: notTried } = useAsked<TriedView>(
    mayTry && list !== null ? [`/api/enquiries/${first.id}/tried?list=${list}`] : null,
    { also: `${e.counts.open} ${e.counts['left out']}` },
  )
  const lines = LINES[e.kind].filter(([state]) => e.counts[state] > 0 || state === 'open')
  const shown = chosen ?? SHOWN_FIRST.find((state) => e.counts[state] > 0) ?? null
  const done = (work: () => Promise<ActionResult<unknown>>) =>
    begin(async () => {
      const result = await work()
      setTold(result.ok ? null : result.error)
      await refresh()
    })
  const currency = e.prices?.currency ?? 'GBP'
  const came = e.counts.fetched + (e.kind === 'fill' ? e.counts.verified + e.counts.uncertain : 0)
  return (
    <Spread
      width="500px"
      label={{ left: 'The account of the enquiry', right: 'What was asked about' }}
      left={
        <>
          <p className="quiet">
            <Link href="/intake/enquiries">Outside sources</Link> · {SOURCES[e.source].name}
          </p>
          <h1 className="break-words">{e.name}</h1>
          <p className="quiet">
            {day(e.at)} by {e.by} · {ENQUIRY_STATE[e.state]}
          </p>
          {e.note && (
            <p role="status" className={`${e.state === 'failed' ? 'told' : 'said'} mt-3`}>
              {e.note}
            </p>
          )}
          {e.state === 'asking' && (
            <div className="mt-3" role="status">
              <progress
                className="w-full"
                value={e.parts.reduce((sum, p) => sum + p.came, 0)}
                max={e.parts.reduce((sum, p) => sum + Math.max(0, (p.total ?? 0) - p.more), 0) || undefined}
                aria-label="Found so far"
              />
              <p className="quiet">
                {e.parts.length > 1
                  ? `${count(e.parts.filter((p) => p.total !== null && p.came >= p.total - p.more).length)} of ${count(e.parts.length)} parts are through.`
                  : 'It is being searched.'}{' '}
                You can leave this page; it goes on.
              </p>
            </div>
          )}
          {e.state === 'running' && (
            <div className="mt-3" role="status">
              <progress className="w-full" value={e.total - e.counts.open} max={e.total} aria-label="Asked about" />
              <p className="quiet">
                {count(e.counts.open)} to go{e.left !== null && `, about ${timeText(e.left)} left`}. You can leave this page; it goes on.
              </p>
            </div>
          )}
          {e.narrowing && !under && <TooMany e={e} actions={actions} busy={busy} done={done} router={router} onTold={setTold} />}
          <table className="account mt-4" aria-label="Account of the enquiry">
            <colgroup>
              <col />
              <col className="w-[112px]" />
            </colgroup>
            <thead>
              <tr>
                <th scope="col">{e.kind === 'find' ? 'What was found' : e.kind === 'fill' ? 'Whose gaps' : 'Which addresses'}</th>
                <th scope="col" className="figure balance">
                  Number
                </th>
              </tr>
            </thead>
            <tbody>
              {lines.map(([state, title, what, tone]) => (
                <tr key={state} className={state === shown ? 'in-hand' : ''} data-testid={`items-${state}`}>
                  <td>
                    <b>{title}</b>
                    {what && <span className="quiet block">{what}</span>}
                  </td>
                  <td className="figure balance">
                    <Figure value={e.counts[state]} tone={tone} label={title} chosen={state === shown} onChoose={() => setChosen(state)} />
                  </td>
                </tr>
              ))}
              <tr className="total">
                <td>{e.kind === 'find' ? 'Found' : 'In all'}</td>
                <td className="figure balance" data-testid="items-total">
                  {count(e.total)}
                </td>
              </tr>
            </tbody>
          </table>
          {e.kind === 'fill' && e.counts.verified + e.counts.uncertain + e.counts.nothing > 0 && (
            <p className="quiet mt-2">
              Of those asked about, something was found for{' '}
              {Math.round((100 * (e.counts.verified + e.counts.uncertain)) / (e.counts.verified + e.counts.uncertain + e.counts.nothing))} %
              {e.filled.length > 0 && `: ${e.filled.map(([title, n]) => `${title.toLowerCase()} ${count(n)}`).join(', ')}`}.
            </p>
          )}
          {e.balance && !under && <Balance of={e.balance} checked={e.kind === 'check'} />}
          {e.asked.kind === 'find' && !under && e.batch === null && actions && e.counts.open + e.counts['left out'] > 0 && (
            <Wanted wanted={e.asked.wanted} busy={busy} want={(channels) => done(() => actions.want(e.id, channels))} />
          )}
          {mayTry && actions && lists.length > 0 && (
            <TryOnList
              e={e}
              lists={lists}
              chosen={list}
              onChoose={setList}
              tried={tried}
              told={notTried}
              busy={busy}
              buy={(of, how) => actions.buyFor(e.id, of, how)}
              done={done}
            />
          )}
          {told && (
            <p role="alert" className="told mt-3">
              {told}
            </p>
          )}
          <Cost e={e} currency={currency} actions={actions} busy={busy} done={done} under={under} />
          {actions && !under && came > 0 && e.batch === null && (
            <button
              type="button"
              className="button button-main mt-4"
              disabled={busy}
              onClick={() =>
                begin(async () => {
                  const result = await actions.asBatch(e.id)
                  if (result.ok) router.push(`/intake/${result.value}`)
                  else setTold(result.error)
                })
              }
            >
              Look at the {count(came)} as a batch
            </button>
          )}
          {e.batch !== null && (
            <p className="mt-4">
              What came is <Link href={`/intake/${e.batch}`}>a batch</Link>, where it is matched and stored.{' '}
              <MakeList these={{ enquiry: e.id }}>Make a list of these</MakeList>
            </p>
          )}
        </>
      }
      right={
        shown === null ? (
          <p className="text-soft">{under ? 'Results appear here.' : 'Nothing was found.'}</p>
        ) : (
          <EnquiryItems
            key={`${shown} ${e.counts[shown]} ${under}`}
            id={e.id}
            state={shown}
            title={lines.find(([state]) => state === shown)?.[1] ?? shown}
            channels={e.kind === 'find'}
            said={tried ? new Map(tried.said) : null}
          />
        )
      }
    />
  )
}

/** What the line or rule that was asked about set aside then, and what it sets aside now. */
function Balance({ of: { of, at, then, now }, checked }: { of: NonNullable<EnquiryView['balance']>; checked: boolean }) {
  const rows: [string, number, number][] = [
    [checked ? `Closed by ${of}` : `Unknown to ${of}`, then.aside, now.aside],
    [checked ? 'Clear by email' : 'On the list', then.on, now.on],
  ]
  return (
    <table className="account mt-4" aria-label="What came of it">
      <thead>
        <tr>
          <th scope="col">
            <Link href={at}>{checked ? 'The round' : 'The list'}</Link>
          </th>
          <th scope="col" className="figure">
            When asked
          </th>
          <th scope="col" className="figure balance">
            Now
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([title, before, after]) => (
          <tr key={title}>
            <td>{title}</td>
            <td className="figure">{count(before)}</td>
            <td className="figure balance">{count(after)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** Channels of which whatever is brought in must have one; each counts at once. */
function Wanted({ wanted, busy, want }: { wanted: Channel[]; busy: boolean; want: (channels: Channel[]) => void }) {
  const [chosen, setChosen] = useState(wanted)
  return (
    <fieldset className="mt-3 flex flex-wrap gap-x-4 gap-y-1">
      <legend className="quiet mb-1">Only with any of</legend>
      {(['email', 'phone', 'post'] as const).map((channel) => (
        <label key={channel} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={chosen.includes(channel)}
            disabled={busy}
            onChange={(event) => {
              const next = event.target.checked ? [...chosen, channel] : chosen.filter((c) => c !== channel)
              setChosen(next)
              want(next)
            }}
          />
          {channel === 'email' ? 'email' : channel === 'phone' ? 'phone' : 'postal address'}
        </label>
      ))}
    </fieldset>
  )
}

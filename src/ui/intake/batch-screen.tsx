'use client'

import { useViewInAddress } from '@/ui/book/view-in-address'
import { MakeList } from '@/ui/book/make-list'
import Link from 'next/link'
import { useState, useTransition } from 'react'
import { readingText } from '@/core/match/reading'
import type { ActionResult } from '@/core/views/action-result'
import { type BatchAccount, type Outcome, UNDONE, type Undone } from '@/core/views/intake-views'
import { useAsked } from '@/ui/book/asking'
import { BatchMapping } from './batch-mapping'
import { BatchRows } from './batch-rows'
import { count, day, Figure } from '@/ui/book/figures'
import { timeText, useTimeLeft } from '@/ui/book/time-left'
import { Spread } from '@/ui/book/spread'
import type { MappingActions, Settle } from './batch-actions'

const OUTCOMES: [Outcome, string, 'in' | 'out' | 'unknown' | 'plain'][] = [
  ['new', 'came into the directory', 'in'],
  ['same', 'known already, nothing to change', 'plain'],
  ['updated', 'known already, and changed', 'plain'],
  ['in doubt', 'could be more than one record; nothing was stored', 'unknown'],
  ['refused', 'could not be taken, each with its reason', 'out'],
]

const isUnder = ({ state, trial }: BatchAccount['batch']): boolean =>
  state === 'queued' || state === 'running' || state === 'undoing' || (state === 'mapping' && trial?.state === 'running')

/** A batch: its columns first, then its account with the rows behind each figure. */
export function BatchScreen({
  first,
  mapping,
  settle,
  undo,
  startAgain,
}: {
  startAgain: ((batch: number) => Promise<ActionResult<unknown>>) | null
  first: BatchAccount
  mapping: MappingActions
  settle: Settle | null
  undo: ((batch: number) => Promise<ActionResult<unknown>>) | null
}) {
  const {
    answer: account = first,
    again,
    take,
  } = useAsked<BatchAccount>([`/api/batches/${first.batch.id}`], { first, every: ({ batch }) => (isUnder(batch) ? 700 : false) })
  const [later, setLater] = useState<ReadonlySet<number>>(new Set())
  const [view, setView] = useViewInAddress<{ outcome?: Outcome; undone?: Undone }>({}, (asked) => {
    const undone = UNDONE.find((known) => known === asked.undone)
    const of = OUTCOMES.map(([known]) => known).find((known) => known === asked.outcome)
    return undone ? { undone } : of ? { outcome: of } : null
  })
  const { outcome = null, undone: shownUndone = null } = view
  const setShownUndone = (undone: Undone | null) => setView(undone === null ? {} : { undone })
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const { batch, counts } = account
  const under = isUnder(batch)
  const left = useTimeLeft(batch.rows_done, batch.rows_total)
  const look = async (result: ActionResult<unknown>) => {
    if (result.ok) await again()
    return result
  }
  if (batch.state === 'mapping')
    return (
      <BatchMapping
        key={JSON.stringify(batch.reading)}
        batch={batch}
        twin={account.twin}
        actions={{
          ...mapping,
          readAnew: async (id, reading) => look(await mapping.readAnew(id, reading)),
          tryOut: async (id, how, options) => look(await mapping.tryOut(id, how, options)),
        }}
        onBegun={() => take({ ...account, batch: { ...batch, state: 'queued' } })}
      />
    )
  const shown =
    outcome ?? (batch.state === 'done' || batch.state === 'undone' ? (OUTCOMES.map(([o]) => o).find((o) => counts[o] > 0) ?? 'new') : null)
  const done = OUTCOMES.reduce((sum, [o]) => sum + counts[o], 0)
  const words =
    batch.kind === 'people' || batch.kind === 'premises'
      ? OUTCOMES
      : OUTCOMES.map(([o, what, tone]): (typeof OUTCOMES)[number] => (o === 'new' ? [o, 'went into the ledger', tone] : [o, what, tone]))
  return (
    <Spread
      width="500px"
      label={{ left: 'The account of the batch', right: 'The rows' }}
      left={
        <>
          <div className="flex items-start justify-between gap-3">
            <h1 className="min-w-0 break-words">{batch.file_name}</h1>
            {batch.state === 'done' && (batch.kind === 'people' || batch.kind === 'premises') && (
              <MakeList these={{ batch: batch.id }}>Make a list of these</MakeList>
            )}
          </div>
          <p className="quiet">
            {batch.kind} · {day(batch.at)} · {readingText(batch.reading)}
          </p>
          {batch.state === 'undoing' && (
            <p role="status" className="said mt-4">
              The batch is being undone. You can leave this page; it goes on.
            </p>
          )}
          {under && batch.state !== 'undoing' && (
            <div className="mt-4" role="status">
              <progress className="w-full" value={batch.rows_done} max={batch.rows_total ?? undefined} aria-label="Rows brought in" />
              <p className="quiet">
                {batch.rows_total === null
                  ? 'The file waits its turn or is being read.'
                  : `${count(batch.rows_done)} of ${count(batch.rows_total)} rows${left === null ? '' : `, about ${timeText(left)} left`}.`}{' '}
                You can leave this page; it goes on.
              </p>
            </div>
          )}
          {batch.error && (
            <p role="alert" className="told mt-4">
              {batch.error}
            </p>
          )}
          {batch.state === 'failed' && startAgain && (
            <button
              type="button"
              className="button mt-2"
              disabled={busy}
              onClick={() =>
                begin(async () => {
                  const result = await startAgain(batch.id)
                  if (result.ok) take({ ...account, batch: { ...batch, state: 'queued', error: null } })
                  else setTold(result.error)
                })
              }
            >
              Start the batch again
            </button>
          )}
          <table className="account mt-4" aria-label="Account of the batch">
            <thead>
              <tr>
                <th scope="col">What became of the rows</th>
                <th scope="col" className="figure balance">
                  Rows
                </th>
              </tr>
            </thead>
            <tbody>
              {words.map(([o, what, tone]) => (
                <tr key={o} className={o === shown && !shownUndone ? 'in-hand' : ''} data-testid={`outcome-${o}`}>
                  <td>
                    <b>{o.slice(0, 1).toUpperCase() + o.slice(1)}</b>
                    <span className="quiet block">{what}</span>
                  </td>
                  <td className="figure balance">
                    <Figure
                      value={counts[o]}
                      tone={tone}
                      label={`${o} rows`}
                      chosen={o === shown && !shownUndone}
                      onChoose={() => {
                        setView({ outcome: o })
                      }}
                    />
                  </td>
                </tr>
              ))}
              <tr className="total">
                <td>Rows of the file {under && batch.state !== 'undoing' && <span className="quiet font-normal">so far</span>}</td>
                <td className="figure balance" data-testid="rows">
                  {count(done)}
                </td>
              </tr>
            </tbody>
          </table>
          {account.undone && <UndoneAccount undone={account.undone} rows={done} shown={shownUndone} onShow={setShownUndone} />}
          {told && (
            <p role="alert" className="told mt-4">
              {told}
            </p>
          )}
          {undo && (batch.state === 'done' || batch.state === 'failed') && (
            <details className="mt-4">
              <summary className="cursor-pointer font-semibold text-verdigris">Undo this batch</summary>
              <div className="mt-2 rounded-lg border border-rule bg-leaf p-3">
                <p>
                  {batch.kind === 'people' || batch.kind === 'premises'
                    ? 'Records it created are withdrawn, and fields it changed go back, unless they were worked on since; those are kept and told. Nothing of the ledger is erased.'
                    : batch.kind === 'contacts'
                      ? 'Every contact it brought in is reversed by an entry. Nothing of the ledger is erased.'
                      : 'Suppressions stay. You can lift each one by itself.'}
                </p>
                <button
                  type="button"
                  className="button mt-2"
                  disabled={busy}
                  onClick={() =>
                    begin(async () => {
                      const result = await undo(batch.id)
                      if (result.ok) take({ ...account, batch: { ...batch, state: 'undoing' } })
                      else setTold(result.error)
                    })
                  }
                >
                  Undo {count(done)} rows
                </button>
              </div>
            </details>
          )}
          {batch.kind === 'people' && batch.state === 'done' && settle && (
            <Link className="button mt-4 mr-2" href={`/intake/enquiries/new?batch=${batch.id}`}>
              Check and fill from a source
            </Link>
          )}
          {counts.refused > 0 && (
            <a className="button mt-4 mr-2" href={`/intake/${batch.id}/rows?outcome=refused`} download>
              Refused rows as CSV
            </a>
          )}
          {counts['in doubt'] > 0 && (
            <a className="button mt-4" href={`/intake/${batch.id}/rows?outcome=in%20doubt`} download>
              Rows in doubt as CSV
            </a>
          )}
        </>
      }
      right={
        shownUndone ? (
          <BatchRows
            key={`undone-${shownUndone}-${account.undone?.counts[shownUndone] ?? 0}`}
            batch={batch}
            undone={shownUndone}
            settle={null}
            later={later}
            onLater={setLater}
            onSettled={() => {}}
          />
        ) : shown ? (
          <BatchRows
            key={`${shown}-${counts[shown]}`}
            batch={batch}
            outcome={shown}
            later={later}
            onLater={setLater}
            settle={
              shown === 'in doubt' && (batch.kind === 'people' || batch.kind === 'premises') && batch.state === 'done' ? settle : null
            }
            onSettled={() => void again()}
          />
        ) : (
          <p className="text-soft">The rows can be opened here once they are in.</p>
        )
      }
    />
  )
}

const UNDONE_WORDS: Record<Undone, string> = {
  withdrawn: 'records it created, taken out of the directory',
  'put back': 'fields as they were before',
  reversed: 'contacts taken back by an entry each',
  kept: 'worked on since, or never undone; each with its reason',
  'nothing to undo': 'rows that had changed nothing',
}

/** What went back and what could not: its rows add up to those of the file. */
function UndoneAccount({
  undone,
  rows,
  shown,
  onShow,
}: {
  undone: NonNullable<BatchAccount['undone']>
  rows: number
  shown: Undone | null
  onShow: (what: Undone) => void
}) {
  const total = UNDONE.reduce((sum, what) => sum + (undone.counts[what] ?? 0), 0)
  return (
    <table className="account mt-5" aria-label="Account of the undoing">
      <thead>
        <tr>
          <th scope="col">Undone by {undone.by}</th>
          <th scope="col" className="figure balance">
            Rows
          </th>
        </tr>
      </thead>
      <tbody>
        {UNDONE.filter((what) => (undone.counts[what] ?? 0) > 0).map((what) => (
          <tr key={what} className={what === shown ? 'in-hand' : ''} data-testid={`undone-${what}`}>
            <td>
              <b>{what.slice(0, 1).toUpperCase() + what.slice(1)}</b>
              <span className="quiet block">{UNDONE_WORDS[what]}</span>
            </td>
            <td className="figure balance">
              <Figure
                value={undone.counts[what] ?? 0}
                tone={what === 'kept' ? 'unknown' : 'plain'}
                label={`${what} rows`}
                chosen={what === shown}
                onChoose={() => onShow(what)}
              />
            </td>
          </tr>
        ))}
        <tr className="total">
          <td>Rows of the file {total < rows && <span className="quiet font-normal">so far</span>}</td>
          <td className="figure balance">{count(total)}</td>
        </tr>
      </tbody>
    </table>
  )
}

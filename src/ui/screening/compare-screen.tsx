'use client'

import Link from 'next/link'
import { type ReactNode, useState } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { ComparisonView } from '@/core/views/comparison-views'
import { ask } from '@/ui/book/ask'
import { useAsked } from '@/ui/book/asking'
import { count, day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'

export interface CompareActions {
  begin: (name: string) => Promise<ActionResult<number>>
  drop: (id: number) => Promise<ActionResult<unknown>>
}

/** Whether something of it is being worked out. */
const isAtWork = (own: ComparisonView): boolean =>
  own.failed === null && (!own.offer || (own.cameOffer && !own.answer) || (own.cameAnswer && own.answer && own.doneAt === null))

/** Comparing suppressions with another organisation: how it goes, and each comparison with the files that are exchanged. */
export function CompareScreen({ first, actions }: { first: ComparisonView[]; actions: CompareActions }) {
  const { answer: all = first, again } = useAsked<ComparisonView[]>(['/api/comparisons'], {
    first,
    every: (own) => (own.some(isAtWork) ? 1000 : false),
  })
  const [told, setTold] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const run = async (work: () => Promise<string | null>) => {
    setBusy(true)
    setTold(null)
    try {
      setTold(await work())
    } catch (error) {
      setTold((error as Error).message)
    }
    await again()
    setBusy(false)
  }
  const refusal = (result: ActionResult<unknown>): string | null => (result.ok ? null : result.error)
  return (
    <Spread
      width="480px"
      label={{ left: 'How to compare', right: 'Comparisons' }}
      left={
        <>
          <p className="quiet">
            <Link href="/screening">Screening</Link>
          </p>
          <h1>Compare suppressions</h1>
          <p className="mt-2">
            Find the addresses and numbers that both you and another organisation must not contact. Neither side sees the rest of the
            other’s.
          </p>
          <ol className="mt-3 list-decimal space-y-1 pl-5">
            <li>Send each other an offer. It holds your addresses and numbers in a form nobody can read.</li>
            <li>Import their offer, and send them the answer to it.</li>
            <li>Import their answer. It shows you which are shared; yours shows them.</li>
          </ol>
          <p className="quiet mt-3">
            A comparison includes the emails, numbers and profiles of people in the directory who asked us to stop or complained. It leaves
            out erased people, and suppressions of addresses that nobody in the directory has: we keep only keys of those. Each side learns
            how many the other brings. A side that brings guesses learns which of them are right.
          </p>
          <form
            className="mt-4 flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault()
              const form = event.currentTarget
              void run(async () => {
                const result = await actions.begin(String(new FormData(form).get('name') ?? ''))
                if (result.ok) form.reset()
                return refusal(result)
              })
            }}
          >
            <label className="field flex-1">
              <span>Compare with</span>
              <input name="name" required maxLength={100} placeholder="the name of the organisation" />
            </label>
            <button type="submit" className="button button-main" disabled={busy}>
              Prepare offer
            </button>
          </form>
          {told && (
            <p role="alert" className="told mt-3">
              {told}
            </p>
          )}
        </>
      }
      right={
        all.length === 0 ? (
          <p className="text-soft">No comparisons yet.</p>
        ) : (
          <ul className="space-y-8">
            {all.map((own) => (
              <li key={own.id}>
                <Comparison
                  of={own}
                  busy={busy}
                  onFile={(file) =>
                    void run(async () => {
                      await ask(`/api/comparisons/${own.id}`, file)
                      return null
                    })
                  }
                  onDrop={() => void run(async () => refusal(await actions.drop(own.id)))}
                />
              </li>
            ))}
          </ul>
        )
      }
    />
  )
}

function Comparison({ of, busy, onFile, onDrop }: { of: ComparisonView; busy: boolean; onFile: (file: File) => void; onDrop: () => void }) {
  const over = of.doneAt !== null
  const [asked, setAsked] = useState(false)
  return (
    <section aria-label={`Comparison with ${of.name}`}>
      <div className="flex items-baseline justify-between gap-3">
        <h2>{of.name}</h2>
        {asked ? (
          <span className="flex gap-3">
            <button type="button" className="font-semibold whitespace-nowrap text-madder" disabled={busy} onClick={onDrop}>
              Delete for good
            </button>
            <button type="button" className="font-semibold whitespace-nowrap text-verdigris" onClick={() => setAsked(false)}>
              Keep
            </button>
          </span>
        ) : (
          <button type="button" className="font-semibold whitespace-nowrap text-verdigris" onClick={() => setAsked(true)}>
            Delete
          </button>
        )}
      </div>
      <p className="quiet">
        {day(of.at)} by {of.by}
        {of.ours !== null && ` · ${count(of.ours)} of ours`}
        {of.theirs !== null && ` · ${count(of.theirs)} of theirs`}
      </p>
      {of.failed && <p className="told mt-2">{of.failed}</p>}
      {of.failed === null && (
        <table className="people mt-2" aria-label={`Files exchanged with ${of.name}`}>
          <thead>
            <tr>
              <th scope="col">File</th>
              <th scope="col">From you</th>
              <th scope="col">From them</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>Offer</td>
              <td>{of.offer ? <Ours id={of.id} part="offer" /> : 'preparing'}</td>
              <td>{of.cameOffer ? 'imported' : 'not imported yet'}</td>
            </tr>
            <tr>
              <td>Answer</td>
              <td>{of.answer ? <Ours id={of.id} part="answer" /> : of.cameOffer ? 'preparing' : 'needs their offer first'}</td>
              <td>{over || of.cameAnswer ? 'imported' : 'not imported yet'}</td>
            </tr>
          </tbody>
        </table>
      )}
      {over ? (
        <p className="said mt-3" role="status">
          <b>{count(of.shared)}</b> {of.shared === 1 ? 'is' : 'are'} shared.{' '}
          {of.shared !== 0 && (
            <Link className="font-semibold underline" href={`/screening/compare/${of.id}`}>
              Show shared suppressions
            </Link>
          )}
        </p>
      ) : (
        of.failed === null &&
        of.offer && (
          <label className="field mt-3">
            <span>Import the offer or the answer they sent</span>
            <input
              type="file"
              accept=".json,application/json"
              disabled={busy}
              onChange={(event) => {
                const [file] = event.target.files ?? []
                if (file) onFile(file)
                event.target.value = ''
              }}
            />
          </label>
        )
      )}
    </section>
  )
}

const Ours = ({ id, part }: { id: number; part: 'offer' | 'answer' }): ReactNode => (
  <a className="font-semibold text-verdigris" href={`/screening/compare/${id}/${part}`} download>
    Download the {part}
  </a>
)

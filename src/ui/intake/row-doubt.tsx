'use client'

import { useEffect, useState, useTransition } from 'react'
import type { BatchRowView, RowDoubt } from '@/core/views/intake-views'
import { useAsked } from '@/ui/book/asking'
import type { Settle } from './batch-actions'
import { AgreeRows } from '@/ui/directory/pair-table'

/** The rows in doubt one after another, each beside those it could be, decided with one key. */
export function RowsInDoubt({
  batch,
  rows,
  settle,
  later,
  onLater,
  onSettled,
}: {
  batch: number
  rows: BatchRowView[]
  settle: Settle
  later: ReadonlySet<number>
  onLater: (later: ReadonlySet<number>) => void
  onSettled: () => void
}) {
  const [at, setAt] = useState(0)
  const [notDecided, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const open = rows.filter((row) => row.candidates.length > 0)
  const current = (open.find((row) => !later.has(row.row)) ?? open[0])?.row
  const { answer: doubt, told: notShown } = useAsked<RowDoubt>(
    current === undefined ? null : [`/api/batches/${batch}/doubts?row=${current}`],
    { failed: 'The row could not be shown.' },
  )
  const told = notDecided ?? notShown
  // biome-ignore lint/correctness/useExhaustiveDependencies: another row begins with its first candidate
  useEffect(() => setAt(0), [batch, current])
  const candidate = doubt?.candidates[at]
  const decide = (decided: { person: number } | 'new') =>
    begin(async () => {
      if (!doubt) return
      const result = await settle(batch, doubt.row, decided)
      setTold(result.ok ? null : result.error)
      if (result.ok) onSettled()
    })
  const next = () =>
    current !== undefined &&
    onLater(open.some((row) => row.row !== current && !later.has(row.row)) ? new Set([...later, current]) : new Set())
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        busy ||
        !doubt ||
        (event.target as HTMLElement).closest('input, textarea, select')
      )
        return
      const pressed = event.key.toLowerCase()
      if (pressed === 's' && candidate) decide({ person: candidate.id })
      else if (pressed === 'd') decide('new')
      else if (pressed === 'n') next()
      else if (doubt.candidates[Number(pressed) - 1]) setAt(Number(pressed) - 1)
      else return
      event.preventDefault()
    }
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  })
  if (current === undefined) return null
  return (
    <section aria-label="One row in doubt" className="mb-6">
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
      {doubt && (
        <>
          <p className="quiet mt-1">
            Row {doubt.row}: {doubt.why}.
          </p>
          {doubt.candidates.length > 1 && (
            <div className="mt-2 flex flex-wrap items-center gap-1.5" role="group" aria-label="Who it could be">
              {doubt.candidates.map((c, i) => (
                <button
                  key={c.id}
                  type="button"
                  className={`button px-2! py-0.5! ${i === at ? 'border-verdigris! font-semibold' : ''}`}
                  aria-pressed={i === at}
                  aria-keyshortcuts={String(i + 1)}
                  onClick={() => setAt(i)}
                >
                  {c.name} <kbd>{i + 1}</kbd>
                </button>
              ))}
            </div>
          )}
          {!candidate && <p className="mt-2 text-soft">None of the possible matches is in the directory any more.</p>}
          {candidate && (
            <table className="people mt-2" aria-label="The row and a record">
              <colgroup>
                <col className="w-[16%]" />
                <col className="w-[34%]" />
                <col className="w-[34%]" />
                <col />
              </colgroup>
              <thead>
                <tr>
                  <th scope="col">
                    <span className="sr-only">Field</span>
                  </th>
                  <th scope="col">The row</th>
                  <th scope="col">In the directory</th>
                  <th scope="col">Agrees</th>
                </tr>
              </thead>
              <tbody>
                <AgreeRows sides={[{ fields: doubt.fields }, candidate]} agrees={candidate.agrees} />
              </tbody>
            </table>
          )}
          <div className="mt-3 flex flex-wrap items-center gap-2">
            <button
              type="button"
              className="button button-main"
              disabled={busy || !candidate}
              aria-keyshortcuts="s"
              onClick={() => candidate && decide({ person: candidate.id })}
            >
              The same <kbd>S</kbd>
            </button>
            <button type="button" className="button" disabled={busy} aria-keyshortcuts="d" onClick={() => decide('new')}>
              Somebody new <kbd>D</kbd>
            </button>
            <button type="button" className="button" disabled={busy} aria-keyshortcuts="n" onClick={next}>
              Later <kbd>N</kbd>
            </button>
          </div>
        </>
      )}
    </section>
  )
}

'use client'

import type { ActionResult } from '@/core/views/action-result'
import type { BatchAccount, BatchRowView, Outcome, Undone } from '@/core/views/intake-views'
import Link from 'next/link'
import { useState, useTransition } from 'react'
import { useGrowing } from '@/ui/book/asking'
import type { Settle } from './batch-actions'
import { Changed } from './changed-field'
import { count } from '@/ui/book/figures'
import { RowsInDoubt } from './row-doubt'

interface Rows {
  total: number
  rows: BatchRowView[]
}

/** The rows of a batch that came out one way, as they came and with the reason. */
export function BatchRows({
  batch,
  outcome,
  undone,
  settle,
  later,
  onLater,
  onSettled,
}: {
  batch: BatchAccount['batch']
  outcome?: Outcome
  undone?: Undone
  settle: Settle | null /** Rows in doubt that are put off. */
  later: ReadonlySet<number>
  onLater: (later: ReadonlySet<number>) => void
  onSettled: () => void
}) {
  const heading = undone ?? outcome ?? ''
  const [notDecided, setTold] = useState<string | null>(null)
  const {
    pages,
    told: notShown,
    more,
  } = useGrowing<Rows>(
    (offset) => [`/api/batches/${batch.id}/rows`, undone ? { undone, offset } : { outcome, offset }],
    (page) => page.rows.length,
    { failed: 'The rows could not be shown.' },
  )
  const told = notDecided ?? notShown
  const rows = pages.length > 0 ? { total: pages[pages.length - 1].total, rows: pages.flatMap((page) => page.rows) } : null
  return (
    <>
      <h2>
        {heading.slice(0, 1).toUpperCase() + heading.slice(1)} {rows && count(rows.total)}
      </h2>
      {told && <p className="told">{told}</p>}
      {rows?.total === 0 && <p className="mt-3 text-soft">No rows.</p>}
      {settle && rows && batch.kind === 'people' && (
        <RowsInDoubt batch={batch.id} rows={rows.rows} settle={settle} later={later} onLater={onLater} onSettled={onSettled} />
      )}
      {rows && rows.rows.length > 0 && (
        <table className="people mt-2">
          <thead>
            <tr>
              <th scope="col" className="w-[52px]">
                Row
              </th>
              <th scope="col">As it came</th>
              <th scope="col" className="w-[40%]">
                What became of it
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.rows.map((row) => (
              <tr key={row.row}>
                <td className="tabular-nums">{row.row}</td>
                <td className="quiet">{shortened(row.raw) || 'empty'}</td>
                <td>
                  {row.person && (
                    <Link
                      prefetch={false}
                      href={`/directory/people/${row.person.id}`}
                      className="font-semibold no-underline hover:underline"
                    >
                      {row.person.name}
                    </Link>
                  )}
                  {row.premises && (
                    <Link
                      prefetch={false}
                      href={`/directory/premises/${row.premises.id}`}
                      className="font-semibold no-underline hover:underline"
                    >
                      {row.premises.name}
                    </Link>
                  )}
                  {row.reason && (
                    <span className="quiet block">
                      {row.changes.length > 0 ? row.reason.split(' · ').slice(1).join(' · ') : row.reason}
                    </span>
                  )}
                  {row.changes.map((change) => (
                    <Changed key={`${change.field} ${change.before} ${change.after}`} change={change} />
                  ))}
                  {row.undone && (
                    <span className="block text-[12.5px] text-ochre">
                      undone: {row.undone.what}
                      {row.undone.why ? `, ${row.undone.why}` : ''}
                    </span>
                  )}
                  {row.candidates.map((c) => (
                    <span key={c.id} className="mt-1 flex items-center justify-between gap-2">
                      <Link
                        prefetch={false}
                        href={`/directory/${batch.kind === 'premises' ? 'premises' : 'people'}/${c.id}`}
                        className="hover:underline"
                      >
                        {c.name}
                        {c.organisation ? `, ${c.organisation}` : ''}
                      </Link>
                      {settle && (
                        <Decide
                          label={`Row ${row.row} is ${c.name}`}
                          title="The same"
                          decide={() => settle(batch.id, row.row, { person: c.id })}
                          onSettled={onSettled}
                          onTold={setTold}
                        />
                      )}
                    </span>
                  ))}
                  {settle && row.candidates.length > 0 && (
                    <span className="mt-1 flex justify-end">
                      <Decide
                        label={`Row ${row.row} is ${batch.kind === 'premises' ? 'new' : 'somebody new'}`}
                        title={batch.kind === 'premises' ? 'New' : 'Somebody new'}
                        decide={() => settle(batch.id, row.row, 'new')}
                        onSettled={onSettled}
                        onTold={setTold}
                      />
                    </span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {rows && more && (
        <button type="button" className="button mt-3" onClick={more}>
          Show more of {count(rows.total)}
        </button>
      )}
    </>
  )
}

function Decide({
  label,
  title,
  decide,
  onSettled,
  onTold,
}: {
  label: string
  title: string
  decide: () => Promise<ActionResult<unknown>>
  onSettled: () => void
  onTold: (text: string) => void
}) {
  const [busy, begin] = useTransition()
  return (
    <button
      type="button"
      className="button px-2! py-0!"
      aria-label={label}
      disabled={busy}
      onClick={() =>
        begin(async () => {
          const result = await decide()
          if (result.ok) onSettled()
          else onTold(result.error)
        })
      }
    >
      {title}
    </button>
  )
}

/** A row as it came, on one line or two: empty cells left out, very long ones cut. */
function shortened(raw: string[]): string {
  return raw
    .map((cell) => cell.trim())
    .filter((cell) => cell !== '')
    .map((cell) => (cell.length > 80 ? `${cell.slice(0, 80)}… (${cell.length} characters)` : cell))
    .join(' · ')
}

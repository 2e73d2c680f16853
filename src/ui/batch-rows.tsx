'use client'

import type { BatchAccount, BatchRowView, Outcome } from '@/core/outputs/views'
import Link from 'next/link'
import { useEffect, useState } from 'react'
import { ask, Told } from './ask'
import { count } from './figures'

interface Rows {
  total: number
  rows: BatchRowView[]
}

/** The rows of a batch that came out one way, as they came and with the reason. */
export function BatchRows({ batch, outcome }: { batch: BatchAccount['batch']; outcome: Outcome }) {
  const [rows, setRows] = useState<Rows | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const more = (offset: number, signal?: AbortSignal) =>
    ask<Rows>(`/api/batches/${batch.id}/rows`, { outcome, offset }, signal)
      .then((got) => setRows((before) => ({ total: got.total, rows: [...(offset > 0 ? (before?.rows ?? []) : []), ...got.rows] })))
      .catch((error) => !signal?.aborted && setTold(error instanceof Told ? error.message : 'The rows could not be shown.'))
  // biome-ignore lint/correctness/useExhaustiveDependencies: fetched once; the parent makes this anew for another outcome
  useEffect(() => {
    const abort = new AbortController()
    void more(0, abort.signal)
    return () => abort.abort()
  }, [])
  return (
    <>
      <h2>
        {outcome.slice(0, 1).toUpperCase() + outcome.slice(1)} {rows && count(rows.total)}
      </h2>
      {told && <p className="told">{told}</p>}
      {rows?.total === 0 && <p className="mt-3 text-soft">No row came out this way.</p>}
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
                <td className="quiet">{row.raw.filter((cell) => cell.trim() !== '').join(' · ').slice(0, 400) || 'empty'}</td>
                <td>
                  {row.person && (
                    <Link href={`/directory/people/${row.person.id}`} className="font-semibold no-underline hover:underline">
                      {row.person.name}
                    </Link>
                  )}
                  {row.reason && <span className="quiet block">{row.reason}</span>}
                  {row.candidates.map((c) => (
                    <Link key={c.id} href={`/directory/people/${c.id}`} className="block hover:underline">
                      {c.name}
                      {c.organisation ? `, ${c.organisation}` : ''}
                    </Link>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {rows && rows.rows.length < rows.total && (
        <button type="button" className="button mt-3" onClick={() => void more(rows.rows.length)}>
          Show more of {count(rows.total)}
        </button>
      )}
    </>
  )
}

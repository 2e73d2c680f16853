'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useTransition } from 'react'
import { moneyText, shareText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'
import { count, day } from '@/ui/book/figures'

/** What can be done on a page of results: back to the round, the account as a file or on paper, and closing. */
export function ResultsActions({
  page,
  trend,
  close,
  onTold,
}: {
  page: { id: number; mayTake: boolean; mayClose: boolean }
  /** The path of the list's trend, where it has one. */
  trend?: string
  close: (id: number) => Promise<ActionResult<unknown>>
  /** Hears why the round was not closed; null once it was. */
  onTold: (told: string | null) => void
}) {
  const router = useRouter()
  const [busy, begin] = useTransition()
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Link href={`/rounds/${page.id}`} className="button">
        Back to the round
      </Link>
      {trend && (
        <Link href={trend} className="button">
          Trend
        </Link>
      )}
      {page.mayTake && (
        <a href={`/rounds/${page.id}/files/results`} className="button" download>
          Save as CSV
        </a>
      )}
      <button type="button" className="button" onClick={() => window.print()}>
        Print
      </button>
      {page.mayClose && (
        <button
          type="button"
          className="button button-main"
          disabled={busy}
          onClick={() =>
            begin(async () => {
              const done = await close(page.id)
              onTold(done.ok ? null : done.error)
              router.refresh()
            })
          }
        >
          Close the round
        </button>
      )}
    </div>
  )
}

/** A round of a list as it stands beside the others. */
export interface RoundBeside {
  id: number
  called: string
  releasedAt: string
  released: number
  /** How many were contacted, or letters posted. */
  done: number
  answered: number
  /** What an answer cost, in minor units; null where it is not known. */
  perAnswer: number | null
}

/** A round, and those of its list before it, to hold it against. Nothing where it is the first. */
export function BesideBefore({ done, rows }: { done: 'Contacted' | 'Posted'; rows: readonly RoundBeside[] }) {
  if (rows.length < 2) return null
  const withCost = rows.some(({ perAnswer }) => perAnswer !== null)
  const titles = ['Released', done, 'Answered', `Of ${done.toLowerCase()}`, ...(withCost ? ['An answer cost'] : [])]
  return (
    <table className="account mt-6" aria-label="Beside the rounds before">
      <thead>
        <tr>
          <th scope="col">Round</th>
          {titles.map((title) => (
            <th key={title} scope="col" className="figure">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <tr key={row.id} className={i === 0 ? 'in-hand' : ''}>
            <td>
              {i === 0 ? (
                <b>This one, {row.called}</b>
              ) : (
                <Link href={`/rounds/${row.id}/results`}>
                  {row.called}, {day(row.releasedAt)}
                </Link>
              )}
            </td>
            <td className="figure">{count(row.released)}</td>
            <td className="figure">{count(row.done)}</td>
            <td className="figure">{count(row.answered)}</td>
            <td className="figure">{row.done === 0 ? '' : shareText(row.answered / row.done)}</td>
            {withCost && <td className="figure">{row.perAnswer === null ? '' : moneyText(row.perAnswer / 100)}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

'use client'

import Link from 'next/link'
import { shareText } from '@/core/text/written'
import type { TrendPage } from '@/core/views/result-views'
import { count, day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { TrendChart } from './trend-chart'

/** The rounds of a list: how many it held and what came of them, from round to round. */
export function TrendScreen({ page }: { page: TrendPage }) {
  const newest = [...page.rounds].reverse()
  return (
    <Spread
      width="560px"
      label={{ left: 'The trend', right: 'The rounds' }}
      left={
        <>
          <h1>Rounds of {page.list}</h1>
          <p className="quiet">
            {page.rounds.length === 0
              ? 'No round of this list has been released yet. Its trend begins with the first one.'
              : `${page.rounds.length} released ${page.rounds.length === 1 ? 'round' : 'rounds'}${page.more ? ', the latest' : ''}. Closed rounds show what they had come to when they were closed.`}
          </p>
          {page.rounds.length > 0 && (
            <div className="mt-4">
              <TrendChart rounds={page.rounds} />
            </div>
          )}
          <p className="mt-4">
            <Link href={`/lists/${page.listId}`} className="button">
              Back to the list
            </Link>
          </p>
        </>
      }
      right={
        <table className="account" aria-label="Rounds of the list">
          <thead>
            <tr>
              <th scope="col">Round</th>
              {['On the list', 'Joined', 'Left', 'Fit', 'Clear', 'Contacted', 'Reached', 'Answered', 'Opted out'].map((title) => (
                <th key={title} scope="col" className="figure">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {newest.map((own) => (
              <tr key={own.id}>
                <td>
                  <Link href={`/rounds/${own.id}/results`} className="font-semibold">
                    {own.number}, {day(own.releasedAt)}
                  </Link>
                  {own.state === 'released' && <span className="quiet block">still out</span>}
                </td>
                <td className="figure">{count(own.listed)}</td>
                <td className="figure text-verdigris">{own.joined === null ? '' : count(own.joined)}</td>
                <td className="figure text-madder">{own.left === null ? '' : count(own.left)}</td>
                <td className="figure">{own.fit === null ? '' : shareText(own.fit)}</td>
                <td className="figure">{count(own.clear)}</td>
                <td className="figure">{count(own.contacted)}</td>
                <td className="figure">{count(own.reached)}</td>
                <td className="figure">{count(own.answered)}</td>
                <td className="figure">{count(own.optOuts)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      }
    />
  )
}

'use client'

import { shareText } from '@/core/text/written'
import type { ProfileOf } from '@/core/facets/profile'
import { count } from '@/ui/book/figures'

/** One facet of a profile as a table and bars: the list's share over that of what it is held beside. A press on a figure shows whose it is. */
export function ProfileFacet({
  facet,
  shown,
  onShow,
}: {
  facet: ProfileOf
  shown: string | null | undefined
  onShow: (label: string | null) => void
}) {
  const most = Math.max(0.0001, ...facet.rows.flatMap((row) => [row.share, row.baseShare]))
  const all = facet.known + facet.unknown
  return (
    <section className="mt-5" aria-label={facet.title}>
      <table className="account">
        <thead>
          <tr>
            <th scope="col">{facet.title}</th>
            <th scope="col" className="w-[120px]">
              <span className="sr-only">Shares as bars</span>
            </th>
            <th scope="col" className="figure">
              Records
            </th>
            <th scope="col" className="figure">
              Share
            </th>
            <th scope="col" className="figure">
              Beside
            </th>
            <th scope="col" className="figure">
              Lift
            </th>
          </tr>
        </thead>
        <tbody>
          {facet.rows.map((row) => (
            <tr key={row.label} className={shown === row.label ? 'in-hand' : ''}>
              <td>{row.label}</td>
              <td aria-hidden="true">
                <span className="block h-1.5 rounded bg-verdigris" style={{ width: `${(row.share / most) * 100}%` }} />
                <span className="mt-0.5 block h-1.5 rounded bg-strong" style={{ width: `${(row.baseShare / most) * 100}%` }} />
              </td>
              <td className="figure">
                <button
                  type="button"
                  className="-my-0.5 min-h-6 min-w-6 text-right font-semibold hover:underline disabled:font-normal disabled:no-underline"
                  disabled={row.count === 0}
                  aria-label={`${count(row.count)} with ${facet.title.toLowerCase()} ${row.label}`}
                  onClick={() => onShow(row.label)}
                >
                  {row.count === 0 ? '0' : count(row.count)}
                </button>
              </td>
              <td className="figure">{shareText(row.share)}</td>
              <td className="figure text-soft">{shareText(row.baseShare)}</td>
              <td
                className={`figure ${row.lift !== null && row.lift >= 1.5 ? 'text-verdigris' : row.lift !== null && row.lift < 0.67 ? 'text-madder' : ''}`}
              >
                {row.lift === null ? '–' : row.lift.toFixed(2)}
              </td>
            </tr>
          ))}
          {facet.unknown > 0 && (
            <tr>
              <td className="text-ochre">unknown</td>
              <td />
              <td className="figure">
                <button
                  type="button"
                  className="-my-0.5 min-h-6 min-w-6 text-right text-ochre hover:underline"
                  aria-label={`${count(facet.unknown)} with ${facet.title.toLowerCase()} unknown`}
                  onClick={() => onShow(null)}
                >
                  {count(facet.unknown)}
                </button>
              </td>
              <td className="figure text-ochre">{shareText(facet.unknown / all)}</td>
              <td className="figure text-soft">{shareText(facet.baseUnknown / Math.max(1, facet.baseKnown + facet.baseUnknown))}</td>
              <td />
            </tr>
          )}
        </tbody>
      </table>
    </section>
  )
}

import { useState } from 'react'
import { contactedIn, costPerAnswer, type Counts, PARTED_BY, type PartedBy, releasedIn, type RoundResults } from '@/core/rounds/results'
import { PART_TEXT, wayTitle } from '@/core/text/results-csv'
import { moneyText } from '@/core/text/written'
import type { ResultsPage, ResultsView } from '@/core/views/result-views'
import { Figure } from '@/ui/book/figures'
import { BesideBefore } from './results-shared'
import { viewTitle } from './results-words'

const COLUMNS = [
  ['released', 'Released', 'plain'],
  ['contacted', 'Contacted', 'plain'],
  ['answered', 'Answered', 'in'],
  ['reached', 'Reached', 'plain'],
  ['not reached', 'Not reached', 'unknown'],
  ['failed', 'Failed', 'out'],
] as const

const figureOf = (counts: Counts, of: (typeof COLUMNS)[number][0]): number =>
  of === 'released' ? releasedIn(counts) : of === 'contacted' ? contactedIn(counts) : counts[of]

/** The results counted by channel, line, file, colleague or opener. */
export function ResultParts({
  results,
  ways,
  view,
  onView,
}: {
  results: RoundResults
  ways: RoundResults['ways']
  view: ResultsView
  onView: (view: ResultsView) => void
}) {
  const [by, setBy] = useState<PartedBy | 'way'>(view.by ?? 'way')
  const rows =
    by === 'way'
      ? ways.map((own) => ({ key: own.way as string, title: wayTitle(own.way), counts: own.counts, cost: own.cost }))
      : results.parts[by].map((own) => ({ key: own.key, title: own.key, counts: own.counts, cost: null }))
  const withCost = rows.some(({ cost }) => cost !== null)
  return (
    <>
      <label className="mt-5 flex items-center gap-2 print:hidden">
        Count by{' '}
        <select value={by} onChange={(event) => setBy(event.target.value as PartedBy | 'way')}>
          <option value="way">channel</option>
          {PARTED_BY.filter((own) => own !== 'supplement' || results.parts.supplement.length > 1).map((own) => (
            <option key={own} value={own}>
              {PART_TEXT[own].toLowerCase()}
            </option>
          ))}
        </select>
      </label>
      <table className="account mt-2" aria-label="Results by part">
        <thead>
          <tr>
            <th scope="col">{by === 'way' ? 'Channel' : PART_TEXT[by]}</th>
            {COLUMNS.map(([of, title]) => (
              <th key={of} scope="col" className="figure">
                {title}
              </th>
            ))}
            {withCost && (
              <th scope="col" className="figure">
                Cost
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.key}>
              <td className="break-words">{row.title}</td>
              {COLUMNS.map(([of, , tone]) => {
                const own: ResultsView = { of, by, key: row.key }
                return (
                  <td key={of} className="figure">
                    <Figure
                      value={figureOf(row.counts, of)}
                      tone={tone}
                      label={viewTitle(own)}
                      chosen={view.of === of && view.by === by && view.key === row.key}
                      onChoose={() => onView(own)}
                    />
                  </td>
                )
              })}
              {withCost && <td className="figure">{row.cost === null ? '' : moneyText(row.cost / 100)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
      {by === 'way' && <p className="quiet mt-1.5">People whom several channels went to are counted by each of them.</p>}
    </>
  )
}

/** The rounds of the list before this one, to hold it against. */
export function RoundsBefore({ page }: { page: ResultsPage }) {
  const { id, called, releasedAt } = page
  const rows = [{ id, called, releasedAt, ...page.results }, ...page.before.map((own) => ({ ...own, called: String(own.number) }))]
  return (
    <BesideBefore
      done="Contacted"
      rows={rows.map((row) => ({
        id: row.id,
        called: row.called,
        releasedAt: row.releasedAt,
        released: releasedIn(row.counts),
        done: contactedIn(row.counts),
        answered: row.counts.answered,
        perAnswer: costPerAnswer(row),
      }))}
    />
  )
}

import Link from 'next/link'
import { costDiffering, countsDiffering } from '@/core/rounds/procedure'
import { planCost } from '@/core/screening/one-channel'
import type { Rule } from '@/core/screening/rules'
import type { ScreeningFigures } from '@/core/screening/account'
import type { RoundPage } from '@/core/views/round-views'

/** What differs from the list's round before, to be seen before it is released. */
export function differencesFromLast(last: RoundPage['last'], figures: ScreeningFigures | null, rules: readonly Rule[]): string[] {
  if (!last) return []
  if (!figures) return last.differs
  return [
    ...last.differs,
    ...(last.clear ? countsDiffering(figures.clear, last.clear, last.number) : []),
    ...costDiffering(planCost(rules, figures.clear), last.cost, last.number),
  ]
}

/** What differs from the round before while this one is being built, and what was done in it, as steps to repeat. */
export function LastRound({
  round,
  figures,
  rules,
  onOnlyNew,
}: {
  round: RoundPage
  figures: ScreeningFigures | null
  rules: readonly Rule[]
  /** Makes it a round for new people alone, or not; absent where this person may not, or it is out. */
  onOnlyNew?: (only: boolean) => void
}) {
  const { last } = round
  if (!last) return null
  const differs = round.state === 'being built' ? differencesFromLast(last, figures, rules) : []
  if (differs.length === 0 && last.steps.length === 0 && !onOnlyNew) return null
  return (
    <section aria-label={`Beside round ${last.number}`} className="mt-4">
      {onOnlyNew && (
        <label className="mb-3 flex items-center gap-2">
          <input type="checkbox" checked={round.onlyNew} onChange={(event) => onOnlyNew(event.target.checked)} />
          Only new people: without whoever an earlier round of the list released
        </label>
      )}
      {differs.length > 0 && (
        <>
          <h2>
            Different from <Link href={`/rounds/${last.id}`}>round {last.number}</Link>
          </h2>
          <ul className="mt-1 list-disc pl-5">
            {differs.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </>
      )}
      {last.steps.length > 0 && (
        <>
          <h2 className={differs.length > 0 ? 'mt-3' : ''}>As in round {last.number}</h2>
          <ol className="mt-1 grid gap-0.5">
            {last.steps.map(({ text, by, done }) => (
              <li key={text} className={done ? 'text-verdigris' : ''}>
                <span aria-hidden="true">{done ? '✓' : '·'}</span> {text} <span className="quiet">{by.join(', ')}</span>
                {done && <span className="sr-only">, done in this round</span>}
              </li>
            ))}
          </ol>
        </>
      )}
    </section>
  )
}

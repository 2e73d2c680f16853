'use client'

import { type BatchTrial, OUTCOMES } from '@/core/views/intake-views'
import { Changed } from './changed-field'
import { count } from '@/ui/book/figures'

const WORDS: Record<(typeof OUTCOMES)[number], string> = {
  new: 'New',
  same: 'Same as known',
  updated: 'Known, with changes',
  'in doubt': 'In doubt',
  refused: 'Refused',
}
const TONE: Record<string, string> = { new: 'text-verdigris', 'in doubt': 'text-ochre', refused: 'text-madder' }

/** What would become of the rows of a file, before any is stored. */
export function TrialAccount({ trial }: { trial: BatchTrial }) {
  if (trial.state === 'failed')
    return (
      <p role="alert" className="told mt-3">
        {trial.error}
      </p>
    )
  const fields = Object.entries(trial.fields).sort(([, a], [, b]) => b - a)
  const detail: Partial<Record<string, string>> = {
    updated: fields.map(([field, n]) => `${field} ${count(n)}`).join(', '),
    new: [
      trial.register > 0 && `${count(trial.register)} on a do-not-call register`,
      trial.suppressed > 0 && `${count(trial.suppressed)} suppressed otherwise`,
    ]
      .filter(Boolean)
      .join(', '),
  }
  return (
    <section aria-label="What would become of the rows" className="mb-5">
      <h2>What would become of the rows</h2>
      <p className="quiet" role="status">
        {trial.state === 'running'
          ? `${count(trial.rows)} rows tried so far. Nothing is stored.`
          : trial.all
            ? `All ${count(trial.rows)} rows were tried, and nothing is stored.`
            : `The first ${count(trial.rows)} rows were tried, and nothing is stored; those after them were not tried.`}
      </p>
      <table className="account mt-2" aria-label="Account of the trial">
        <thead>
          <tr>
            <th scope="col">Outcome</th>
            <th scope="col" className="figure balance">
              Rows
            </th>
          </tr>
        </thead>
        <tbody>
          {OUTCOMES.map((outcome) => (
            <tr key={outcome} data-testid={`trial-${outcome}`}>
              <td>
                <b>{WORDS[outcome]}</b>
                {detail[outcome] && (
                  <span className="quiet block">{outcome === 'new' ? detail[outcome] : `changes ${detail[outcome]}`}</span>
                )}
              </td>
              <td className={`figure balance ${TONE[outcome] ?? ''}`}>{count(trial.counts[outcome])}</td>
            </tr>
          ))}
          <tr className="total">
            <td>Rows tried</td>
            <td className="figure balance" data-testid="trial-rows">
              {count(trial.rows)}
            </td>
          </tr>
        </tbody>
      </table>
      {trial.released > 0 && <p className="quiet mt-2">{count(trial.released)} of the known were released in a round before.</p>}
      {trial.changes && trial.changes.length > 0 && (
        <details className="mt-3">
          <summary className="cursor-pointer font-semibold text-verdigris">
            What would change{trial.changes.length < trial.counts.updated ? `, the first ${count(trial.changes.length)}` : ''}
          </summary>
          <ul className="mt-1">
            {trial.changes.map((changed) => (
              <li key={changed.row} className="border-b border-rule py-1.5">
                <b className="font-semibold">{changed.name}</b> <span className="quiet">row {changed.row}</span>
                {changed.fields.map((change) => (
                  <Changed key={`${change.field} ${change.before} ${change.after}`} change={change} />
                ))}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}

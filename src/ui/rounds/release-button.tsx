import { CHANNEL_NAME, CHANNELS } from '@/core/records/channels'
import type { RoundPage } from '@/core/views/round-views'
import type { ScreeningFigures } from '@/core/screening/account'
import { count } from '@/ui/book/figures'
import { Confirm } from '@/ui/forms/confirm'

/** Releases a round, after it has shown how many are contacted, by which channels and with which files. */
export function ReleaseButton({
  called,
  list,
  figures,
  differs,
  steps,
  check,
  disabled,
  onRelease,
}: {
  called: string
  list: string
  figures: ScreeningFigures | null
  /** What differs from the round before, in words. */
  differs: readonly string[]
  /** How its fit check stands; null where nobody looked at a sample. */
  check: RoundPage['check']
  /** Which channels are worked later, in words; null where all are at once. */
  steps: string | null
  disabled: boolean
  onRelease: (clear: ScreeningFigures['clear']) => void
}) {
  const held = figures?.heldBack ?? 0
  return (
    <Confirm
      title={`Release round ${called} of ${list}?`}
      act={`Release to ${count(figures?.anyone)} people`}
      onAct={() => figures && onRelease(figures.clear)}
      trigger={
        <button type="button" className="button button-main" disabled={disabled}>
          Release round {called}
        </button>
      }
    >
      <table className="account" aria-label="What the release does">
        <thead>
          <tr>
            <th scope="col">File</th>
            <th scope="col" className="figure">
              People in it
            </th>
          </tr>
        </thead>
        <tbody>
          {CHANNELS.map((channel) => (
            <tr key={channel}>
              <td className="first-letter:uppercase">{CHANNEL_NAME[channel]}</td>
              <td className="figure">{count(figures?.clear[channel])}</td>
            </tr>
          ))}
          <tr className="total">
            <td>People contacted, each counted once</td>
            <td className="figure balance">{count(figures?.anyone)}</td>
          </tr>
        </tbody>
      </table>
      {checkText(check) && <p className="mt-2 text-ochre">{checkText(check)}</p>}
      {steps && <p className="mt-2">Later steps: {steps}.</p>}
      {differs.length > 0 && (
        <div className="said mt-2">
          <b>Different from the round before</b>
          <ul className="list-disc pl-5">
            {differs.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </div>
      )}
      <p className="mt-2">
        {held === 0 ? 'Nobody is held back everywhere.' : `${count(held)} stay held back everywhere.`} The people and their addresses are
        frozen as they are now. A released round can be closed, but not taken back.
      </p>
    </Confirm>
  )
}

/** What a release should know of the fit check; null where it passed, or was ended on purpose. */
function checkText(check: RoundPage['check']): string | null {
  if (check === null) return 'Nobody has looked through a sample of these people. Check, step 3, can only be done before the release.'
  if (check.outcome === 'passes' || check.ended) return null
  return check.outcome === 'fails'
    ? 'The fit check does not pass: too many of those seen do not fit.'
    : `The fit check is not at its end: ${count(check.seen)} of ${count(check.sample)} seen.`
}

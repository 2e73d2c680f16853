import Link from 'next/link'
import type { RoundPage } from '@/core/views/round-views'
import { day } from '@/ui/book/figures'

/** The policy a round goes by, what was changed for this round alone, and a newer edition to take. */
export function RoundPolicy({ round, busy, onTake }: { round: RoundPage; busy: boolean; onTake: () => void }) {
  const { policy, ruleChanges } = round
  if (!policy) return null
  return (
    <section aria-label="Policy" className="mt-4">
      <p className="quiet">
        Screened by{' '}
        <Link href={`/screening/policies/${policy.id}`} className="font-semibold">
          {policy.name}
        </Link>
        , edition {policy.edition}.
        {policy.newest && (
          <>
            {' '}
            {policy.newest.policy === policy.name
              ? `Edition ${policy.newest.edition} was saved since.`
              : `The list goes by ${policy.newest.policy} now.`}
            {round.mayRelease && (
              <button type="button" className="ml-2 font-semibold text-verdigris hover:underline" disabled={busy} onClick={onTake}>
                Use edition {policy.newest.edition}
                {policy.newest.policy === policy.name ? '' : ` of ${policy.newest.policy}`}
                {ruleChanges && ' and drop this round’s own changes'}
              </button>
            )}
          </>
        )}
      </p>
      {ruleChanges && (
        <div className="said mt-2">
          <p>
            Changed for this round alone, last by {ruleChanges.by} on {day(ruleChanges.at)}
            {ruleChanges.why && `: “${ruleChanges.why}”`}
          </p>
          <ul className="mt-1 grid gap-0.5">
            {ruleChanges.said.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </div>
      )}
    </section>
  )
}

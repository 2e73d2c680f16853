import Link from 'next/link'
import type { ReactNode } from 'react'
import type { ListView } from '@/core/views/list-views'
import type { RoundState } from '@/core/views/round-views'
import { Arch } from '@/ui/rounds/arch'
import { roundStones } from '@/ui/rounds/round-stones'

/** Where the last round of a list stands, and the way on from there. */
export function RoundCard({
  list,
  round,
  hasReleased,
  mayStart,
  dirty,
  onStart,
  busy,
  policy,
}: {
  list: ListView
  round: { id: number; number: number; state: RoundState } | null
  hasReleased: boolean
  mayStart: boolean
  dirty: boolean
  onStart: () => void
  busy: boolean
  policy: ReactNode
}) {
  const building = round?.state === 'being built'
  return (
    <div className="my-3 flex items-center gap-4 rounded-lg border border-rule bg-leaf px-4 py-2.5">
      <Arch
        width={84}
        stones={roundStones(round?.state ?? null, {
          requalify: hasReleased ? `/lists/${list.id}/requalify` : undefined,
          screen: round ? `/rounds/${round.id}` : undefined,
          ...(round && !building ? { results: `/rounds/${round.id}/results` } : {}),
        })}
      />
      <div className="min-w-0 flex-1">
        <b>
          {round === null
            ? 'No round yet.'
            : building
              ? `Round ${round.number} is being built.`
              : `Round ${round.number} is ${round.state === 'released' ? 'out' : 'closed'}.`}
        </b>
        <br />
        {round === null
          ? 'Start one when the list is right.'
          : building
            ? 'Screening is next.'
            : hasReleased
              ? 'See who joined and left before the next.'
              : ''}
        {policy}
      </div>
      {building && (
        <Link href={`/rounds/${round.id}`} className="button button-main">
          Go on to screening
        </Link>
      )}
      {!building && hasReleased && (
        <Link href={`/lists/${list.id}/requalify`} className="button button-main">
          Requalify
        </Link>
      )}
      {!building && !hasReleased && mayStart && (
        <button
          type="button"
          className="button button-main"
          onClick={onStart}
          disabled={dirty || busy}
          title={dirty ? 'Save the list first' : undefined}
        >
          Start round {(round?.number ?? 0) + 1}
        </button>
      )}
    </div>
  )
}

/** What stands in its place where a list is of organisations. */
export function NotForRounds() {
  return (
    <p className="quiet mt-2 rounded-md border border-rule px-3 py-2">
      Rounds go to people or to premises. A list of people can name this one with a line: “Linked to a list”.
    </p>
  )
}

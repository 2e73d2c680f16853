'use client'

import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { ProposalEffect, ProposalView } from '@/core/views/list-views'
import { useAsked } from '@/ui/book/asking'
import { count, day, Figure } from '@/ui/book/figures'
import { Mark } from './line-marks'
import type { ProposalSide } from './proposal-records'
import type { Theirs } from './their-changes'

export type SettleProposal = (
  proposal: number,
  how: 'take' | 'leave' | 'take back' | 'read',
  reason?: string,
) => Promise<ActionResult<unknown>>

interface ProposalActs {
  onTry: (proposal: Theirs) => void
  /** Shows who would leave or join by what is proposed. */
  onShow: (proposal: ProposalView, side: ProposalSide) => void
  /** One's own proposal was taken back: its lines are one's draft again, where none stands. */
  onTakenBack: (proposal: ProposalView) => void
}

/** What is proposed for a list, with what each would do, and what became of one's own. */
export function Proposals({
  proposals,
  dirty,
  edition,
  settle,
  ...acts
}: {
  proposals: ProposalView[]
  dirty: boolean
  edition: number
  settle: SettleProposal
} & ProposalActs) {
  return (
    <>
      {proposals.map((proposal, i) => {
        if (proposal.decision) return <Settled key={proposal.id} proposal={proposal} settle={settle} />
        const before = proposals.slice(0, i).filter((other) => !other.decision && other.by === proposal.by).length
        return (
          <Open
            key={proposal.id}
            proposal={proposal}
            label={`Proposed by ${proposal.by}${before > 0 ? `, number ${before + 1}` : ''}`}
            dirty={dirty}
            edition={edition}
            settle={settle}
            {...acts}
          />
        )
      })}
    </>
  )
}

function Settled({ proposal, settle }: { proposal: ProposalView; settle: SettleProposal }) {
  const router = useRouter()
  const { decision } = proposal
  return (
    <p role="status" className="my-2 flex items-center justify-between gap-3 rounded-md bg-ochre-wash px-3 py-1.5">
      <span>
        {decision?.is === 'taken'
          ? `${decision.by} took what you proposed on ${day(proposal.at)}: it is in edition ${decision.edition}.`
          : `${decision?.by} declined what you proposed on ${day(proposal.at)}${decision?.reason ? `: ${decision.reason}` : '.'}`}
      </span>
      <button type="button" className="button" onClick={() => void settle(proposal.id, 'read').then(() => router.refresh())}>
        Read
      </button>
    </p>
  )
}

function Open({
  proposal,
  label,
  dirty,
  edition,
  settle,
  onTry,
  onShow,
  onTakenBack,
}: {
  proposal: ProposalView
  label: string
  dirty: boolean
  edition: number
  settle: SettleProposal
} & ProposalActs) {
  const router = useRouter()
  const [leaving, setLeaving] = useState<string | null>(null)
  const [notDone, setTold] = useState('')
  const [busy, begin] = useTransition()
  const { answer: effect, told: notShown } = useAsked<ProposalEffect>([`/api/proposals/${proposal.id}`], { hold: true, also: edition })
  const told = notDone || notShown
  const go = (work: Promise<ActionResult<unknown>>, after?: (of: ProposalView) => void) =>
    begin(async () => {
      const done = await work
      if (!done.ok) return setTold(done.error)
      after?.(proposal)
      router.refresh()
    })
  const { figures } = effect ?? {}
  return (
    <section aria-label={label} className="my-3 rounded-lg border border-strong bg-leaf px-4 py-3">
      <b>{proposal.mine ? 'You propose' : `${proposal.by} proposes`}</b>{' '}
      <span className="quiet">
        {day(proposal.at)}, from edition {proposal.basedOn}
      </span>
      {proposal.note && <p className="break-words">“{proposal.note}”</p>}
      <ul className="my-1.5 grid gap-1">
        {proposal.differences.map((d) => (
          <li key={`${d.is}-${d.id}`} className="break-words">
            <Mark is={d.is} /> <span className={d.is === 'removed' ? 'line-through' : ''}>{d.text}</span>
            {d.was && <span className="quiet block">{d.is === 'changed' ? `is now: ${d.was}` : d.was}</span>}
            {d.crosses && (
              <span className="block text-[12.5px] text-madder">
                This line was changed since. Taking the proposal replaces that change.
              </span>
            )}
          </li>
        ))}
        {proposal.differences.length === 0 && <li className="quiet">The list says so already.</li>}
      </ul>
      <p className="tabular-nums" data-testid="proposal-effect">
        {figures ? (
          <>
            {count(figures.opening)} on it now,{' '}
            {figures.left === 0 ? (
              '0'
            ) : (
              <Figure value={figures.left} tone="out" label="Would leave" onChoose={() => onShow(proposal, 'left')} />
            )}{' '}
            would leave,{' '}
            {figures.joined === 0 ? (
              '0'
            ) : (
              <Figure value={figures.joined} tone="in" label="Would join" onChoose={() => onShow(proposal, 'joined')} />
            )}{' '}
            would join: <b>{count(figures.closing)}</b> with it.
          </>
        ) : (
          <span className="quiet">Working out what it would do.</span>
        )}
      </p>
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
      {leaving !== null ? (
        <form
          className="mt-2 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            go(settle(proposal.id, 'leave', leaving))
          }}
        >
          <input
            autoFocus
            aria-label="Why it is declined"
            placeholder="reason, which they will see"
            maxLength={500}
            className="grow"
            value={leaving}
            onChange={(e) => setLeaving(e.target.value)}
          />
          <button type="submit" className="button" disabled={busy}>
            Decline
          </button>
        </form>
      ) : (
        <div className="mt-2 flex flex-wrap gap-2">
          {proposal.mayDecide && (
            <button
              type="button"
              className="button button-main"
              disabled={busy || proposal.differences.length === 0}
              onClick={() => go(settle(proposal.id, 'take'))}
            >
              Take it as edition {edition + 1}
            </button>
          )}
          {proposal.mayDecide && (
            <button
              type="button"
              className="button"
              disabled={busy || proposal.differences.length === 0}
              title={dirty ? 'Your own unsaved lines stay' : undefined}
              onClick={() => onTry({ edition, by: proposal.by, lines: proposal.lines, basis: proposal.basis })}
            >
              Choose line by line
            </button>
          )}
          {proposal.mayDecide && !proposal.mine && (
            <button type="button" className="button" disabled={busy} onClick={() => setLeaving('')}>
              Decline
            </button>
          )}
          {proposal.mine && (
            <button type="button" className="button" disabled={busy} onClick={() => go(settle(proposal.id, 'take back'), onTakenBack)}>
              Take it back
            </button>
          )}
        </div>
      )}
    </section>
  )
}

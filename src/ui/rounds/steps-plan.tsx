'use client'

import { useState } from 'react'
import { CHANNEL_TITLE, CHANNELS, type Channel } from '@/core/records/channels'
import { inSteps, MOST_DAYS, type Step, type Steps, UNLESS } from '@/core/rounds/steps'
import { dateText } from '@/core/text/written'
import type { RoundAccount, RoundPage } from '@/core/views/round-views'
import { count } from '@/ui/book/figures'

const UNLESS_TEXT = { answered: 'unless they answered', reached: 'unless they were reached' } as const
/** A later step begins as this one: a call after a letter or an email (our own figure, no source). */
const USUAL: Step = { after: 10, unless: 'answered' }

/** When each channel of a round is worked: to be planned while it is built, with how far it is once it is out. */
export function StepsPlan({
  round,
  figures,
  busy,
  onSave,
}: {
  round: RoundPage
  figures: RoundAccount['figures'] | null
  busy: boolean
  /** Absent where this person may not plan it, or it is out. */
  onSave?: (steps: Steps) => void
}) {
  if (round.state !== 'being built') return <StepsMade round={round} />
  const used = CHANNELS.filter((channel) => (figures?.clear[channel] ?? 0) > 0 || round.steps?.[channel])
  if (used.length < 2) return null
  return <Draft key={JSON.stringify(round.steps)} saved={round.steps ?? {}} used={used} busy={busy} {...(onSave ? { onSave } : {})} />
}

function Draft({ saved, used, busy, onSave }: { saved: Steps; used: readonly Channel[]; busy: boolean; onSave?: (steps: Steps) => void }) {
  const [steps, setSteps] = useState(saved)
  const put = (channel: Channel, step: Step | null) => {
    const { [channel]: _, ...others } = steps
    setSteps(step ? { ...others, [channel]: step } : others)
  }
  const sure = CHANNELS.some((channel) => !steps[channel]) && CHANNELS.every((channel) => !steps[channel] || within(steps[channel].after))
  return (
    <fieldset className="mt-4" disabled={busy || !onSave}>
      <legend className="font-display text-[17px] font-semibold">Steps</legend>
      <p className="quiet">Which channels are used at once, and which later. Days count from the release.</p>
      <ul className="mt-1.5 grid gap-1.5">
        {used.map((channel) => {
          const step = steps[channel]
          return (
            <li key={channel} className="flex flex-wrap items-center gap-2">
              <span className="w-32">{CHANNEL_TITLE[channel]}</span>
              <select
                aria-label={`When ${CHANNEL_TITLE[channel]} is used`}
                value={step ? 'later' : 'at once'}
                onChange={(event) => put(channel, event.target.value === 'later' ? USUAL : null)}
              >
                <option value="at once">at once</option>
                <option value="later">later</option>
              </select>
              {step && (
                <>
                  <input
                    type="number"
                    className="w-16"
                    aria-label={`Days until ${CHANNEL_TITLE[channel]}`}
                    min={1}
                    max={MOST_DAYS}
                    value={Number.isNaN(step.after) ? '' : step.after}
                    onChange={(event) => put(channel, { ...step, after: event.target.valueAsNumber })}
                  />
                  days later,
                  <select
                    aria-label={`What spares them ${CHANNEL_TITLE[channel]}`}
                    value={step.unless ?? ''}
                    onChange={(event) => put(channel, { ...step, unless: UNLESS.find((own) => own === event.target.value) ?? null })}
                  >
                    {UNLESS.map((own) => (
                      <option key={own} value={own}>
                        {UNLESS_TEXT[own]}
                      </option>
                    ))}
                    <option value="">in any case</option>
                  </select>
                </>
              )}
            </li>
          )
        })}
      </ul>
      {JSON.stringify(inSteps(steps)) !== JSON.stringify(inSteps(saved)) && (
        <p className="mt-2 flex items-center gap-3">
          <button type="button" className="button" disabled={!sure} onClick={() => onSave?.(steps)}>
            Save steps
          </button>
          {!sure && <span className="quiet">One channel at least is used at once; a later one after 1 to {MOST_DAYS} days.</span>}
        </p>
      )}
    </fieldset>
  )
}

const within = (days: number): boolean => Number.isInteger(days) && days >= 1 && days <= MOST_DAYS

/** The steps of a round that is out. */
function StepsMade({ round }: { round: RoundPage }) {
  if (!round.steps) return null
  return (
    <table className="account mt-4" aria-label="Steps">
      <thead>
        <tr>
          <th scope="col">Step</th>
          <th scope="col">From</th>
          <th scope="col" className="figure">
            Planned
          </th>
          <th scope="col" className="figure">
            Not needed
          </th>
          <th scope="col" className="figure balance">
            To make
          </th>
        </tr>
      </thead>
      <tbody>
        {inSteps(round.steps).flatMap(({ channel, step, unless }) => {
          const made = round.stepsMade.find((own) => own.channel === channel)
          if (!made) return []
          return (
            <tr key={channel}>
              <td>
                {step} {CHANNEL_TITLE[channel]} <span className="quiet">{unless && UNLESS_TEXT[unless]}</span>
              </td>
              <td>{dateText(made.due)}</td>
              <td className="figure">{count(made.planned)}</td>
              <td className="figure">{count(made.spared)}</td>
              <td className="figure balance">{count(made.open)}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

'use client'

import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { LiftingView, RegisterView } from '@/core/views/round-views'
import { count, day } from '@/ui/book/figures'
import type { LiftGoneAction } from './screening-actions'

/** Lifts, all at once, what stands by a register and is not on it any more: how many of how many, and why where they are many. */
export function LiftGone({ register, liftGone }: { register: RegisterView; liftGone: LiftGoneAction }) {
  const { name, stillHeld, standing, share } = register
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const many = stillHeld * 100 > standing * share
  return (
    <form
      className="mt-1 grid gap-1.5"
      aria-label={`Lift numbers no longer on ${name}`}
      onSubmit={(event) => {
        event.preventDefault()
        const why = String(new FormData(event.currentTarget).get('why') ?? '')
        begin(async () => {
          const result = await liftGone({ register: name, expected: stillHeld, why })
          setTold(result.ok ? null : result.error)
        })
      }}
    >
      <span className="quiet block">
        {count(stillHeld)} of the {count(standing)} that stand by it {stillHeld === 1 ? 'is' : 'are'} not on this version any more (
        {percent(stillHeld, standing)}).
      </span>
      {many && (
        <label className="field">
          <span>That is more than {share} %. A file that was cut short looks the same. Why is it right?</span>
          <input name="why" maxLength={200} />
        </label>
      )}
      <button type="submit" className="button justify-self-start px-2! py-0.5!" disabled={busy}>
        Lift these {count(stillHeld)}
      </button>
      {told && (
        <p role="alert" className="told mt-1">
          {told}
        </p>
      )}
    </form>
  )
}

/** The last acts of lifting, each of which can be taken back. */
export function Liftings({
  liftings,
  takeLiftBack,
}: {
  liftings: LiftingView[]
  takeLiftBack: (lifting: number) => Promise<ActionResult<unknown>>
}) {
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-semibold text-verdigris">Recently lifted</summary>
      <ul className="mt-1 grid gap-1.5">
        {liftings.map((g) => (
          <li key={g.id} className="flex items-start justify-between gap-3">
            <span>
              {count(g.lifted)} {g.lifted === 1 ? 'suppression' : 'suppressions'}: {g.word}
              <span className="quiet block">
                {day(g.at)} · {g.by}
              </span>
            </span>
            <button
              type="button"
              className="button px-2! py-0.5!"
              disabled={busy}
              aria-label={`Put back ${count(g.lifted)}: ${g.word}`}
              onClick={() =>
                begin(async () => {
                  const result = await takeLiftBack(g.id)
                  setTold(result.ok ? null : result.error)
                })
              }
            >
              Put back
            </button>
          </li>
        ))}
      </ul>
      {told && (
        <p role="alert" className="told mt-1">
          {told}
        </p>
      )}
    </details>
  )
}

/** Returns a share as a percentage with at most one decimal; 0 of nothing is 0 %. */
export const percent = (part: number, whole: number) => `${whole === 0 ? 0 : Math.round((part * 1000) / whole) / 10} %`

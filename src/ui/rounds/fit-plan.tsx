import { useState, useTransition } from 'react'
import type { CheckPlan } from '@/core/checks/plan'
import { sampleSize } from '@/core/checks/plan'
import { SPREAD_BY, type SpreadBy } from '@/core/checks/parts'
import { SURENESS, type Sureness, Z } from '@/core/checks/share'
import { count } from '@/ui/book/figures'

/** How a sample is looked through, chosen before the first of it is seen. */
export function FitPlan({
  clear,
  before,
  onDraw,
  onCancel,
}: {
  clear: number | null
  before: CheckPlan | null
  onDraw: (plan: unknown) => Promise<void>
  onCancel?: () => void
}) {
  const [kind, setKind] = useState<CheckPlan['kind']>(before?.kind ?? 'fixed')
  const [wanted, setWanted] = useState(Math.round((before?.wanted ?? 0.9) * 100))
  const [sure, setSure] = useState<Sureness>(before?.sure ?? 95)
  const [within, setWithin] = useState(6)
  const [poor, setPoor] = useState(Math.round((before?.kind === 'sequential' ? before.poor : 0.75) * 100))
  const advised = sampleSize(clear ?? 100_000, wanted / 100, within / 100, Z[sure])
  const [own, setOwn] = useState<number | null>(before ? (before.kind === 'fixed' ? before.size : before.most) : null)
  const size = own ?? (kind === 'fixed' ? Math.max(5, advised) : 150)
  const [by, setBy] = useState<SpreadBy | null>(before?.kind === 'fixed' ? (before.by ?? null) : null)
  const [busy, begin] = useTransition()
  return (
    <form
      className="grid max-w-[560px] gap-3"
      aria-label="How to look"
      onSubmit={(event) => {
        event.preventDefault()
        begin(() =>
          onDraw({
            kind,
            wanted: wanted / 100,
            sure,
            size,
            poor: kind === 'sequential' ? poor / 100 : null,
            by: kind === 'fixed' ? by : null,
          }),
        )
      }}
    >
      <p className="quiet">
        {clear === null ? '' : `${count(clear)} are clear to contact. `}Choose the plan before you see the first person. A plan that is
        changed on the way proves nothing.
      </p>
      <fieldset className="grid gap-1.5">
        <legend className="quiet mb-1 font-semibold">Plan</legend>
        <label className="flex items-start gap-2">
          <input type="radio" name="kind" checked={kind === 'fixed'} onChange={() => setKind('fixed')} className="mt-1" />
          <span>
            A fixed number
            <span className="quiet block">You look at all of them, and learn how many fit and how sure that is.</span>
          </span>
        </label>
        <label className="flex items-start gap-2">
          <input type="radio" name="kind" checked={kind === 'sequential'} onChange={() => setKind('sequential')} className="mt-1" />
          <span>
            One after the other, until the result is certain
            <span className="quiet block">You stop as soon as the list passes or fails, often after a few dozen.</span>
          </span>
        </label>
      </fieldset>
      <div className="grid grid-cols-3 gap-3">
        <label className="field">
          <span>Should fit, at least, in %</span>
          <input type="number" min={50} max={99} value={wanted} onChange={(event) => setWanted(Number(event.target.value))} />
        </label>
        <label className="field">
          <span>How sure</span>
          <select value={sure} onChange={(event) => setSure(Number(event.target.value) as Sureness)}>
            {SURENESS.map((own) => (
              <option key={own} value={own}>
                {own} %
              </option>
            ))}
          </select>
        </label>
        {kind === 'fixed' ? (
          <label className="field">
            <span>To within, in points</span>
            <input
              type="number"
              min={1}
              max={30}
              value={within}
              onChange={(event) => {
                setWithin(Math.max(1, Number(event.target.value)))
                setOwn(null)
              }}
            />
          </label>
        ) : (
          <label className="field">
            <span>Fails if only, in %</span>
            <input type="number" min={5} max={wanted - 2} value={poor} onChange={(event) => setPoor(Number(event.target.value))} />
          </label>
        )}
      </div>
      <label className="field w-[180px]">
        <span>{kind === 'fixed' ? 'Look at' : 'Look at, at most'}</span>
        <input type="number" min={5} max={2000} value={size} onChange={(event) => setOwn(Number(event.target.value))} />
      </label>
      {kind === 'fixed' && (
        <label className="field w-[340px]">
          <span>Spread over the lines that let people in, and over</span>
          <select value={by ?? ''} onChange={(event) => setBy(SPREAD_BY.find((own) => own === event.target.value) ?? null)}>
            <option value="">nothing else</option>
            <option value="batch">the files they came with</option>
            <option value="age">how long nothing about them changed</option>
            <option value="rank">their rank in the list’s limit</option>
          </select>
        </label>
      )}
      <div className="flex gap-2">
        <button type="submit" className="button button-main" disabled={busy || clear === 0}>
          Draw sample
        </button>
        {onCancel && (
          <button type="button" className="button" onClick={onCancel}>
            Cancel
          </button>
        )}
      </div>
    </form>
  )
}

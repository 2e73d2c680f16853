'use client'

import type { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { EnquiryView } from '@/core/sources/enquiry'
import { priceText } from '@/core/text/written'
import type { Split } from '@/core/sources/parts'
import { CHECK_STATES, FILL_OUTCOMES, type SearchedName } from '@/core/sources/source'
import { count } from '@/ui/book/figures'
import type { EnquiryActions } from './enquiry-actions'

interface Work {
  e: EnquiryView
  actions: EnquiryActions | null
  busy: boolean
  done: (work: () => Promise<ActionResult<unknown>>) => void
}

/** What is asked costs at most so much; a cap, and the way to begin, stop and go on. */
export function Cost({ e, currency, actions, busy, done, under }: Work & { currency: string; under: boolean }) {
  const [pounds, setPounds] = useState<string | null>(null)
  const suggested = ((e.cost + e.most) / 100).toFixed(2)
  const cap = Math.round(Number(pounds ?? suggested) * 100)
  const searching = e.kind === 'find' && e.parts.some((p) => p.total === null)
  if (!e.prices && !searching) return null
  const each = e.prices
  return (
    <section className="mt-4" aria-label="What it costs">
      <table className="account" aria-label="What it costs">
        <colgroup>
          <col />
          <col className="w-[112px]" />
        </colgroup>
        <tbody>
          {e.counts.open > 0 && (
            <tr>
              <td>
                {e.kind === 'find' ? 'Buy' : e.kind === 'fill' ? 'Fill gaps of' : 'Check'} {count(e.counts.open)}{' '}
                {e.kind === 'check' ? 'addresses' : 'records'}, at most
                {each && <span className="quiet block">{pricesText(e, currency)}</span>}
              </td>
              <td className="figure balance">{priceText(e.most, currency)}</td>
            </tr>
          )}
          <tr className="total">
            <td>Spent so far</td>
            <td className="figure balance" data-testid="cost">
              {priceText(e.cost, currency)}
            </td>
          </tr>
        </tbody>
      </table>
      {actions && !under && (e.counts.open > 0 || searching) && e.batch === null && (
        <div className="mt-3 flex items-end gap-2">
          {e.counts.open > 0 && (
            <label className="field">
              <span>Spend at most, in total ({currency})</span>
              <input
                className="w-28"
                type="number"
                min={0}
                step={0.01}
                value={pounds ?? suggested}
                onChange={(event) => setPounds(event.target.value)}
              />
            </label>
          )}
          <button
            type="button"
            className="button button-main"
            disabled={busy || !Number.isFinite(cap) || cap < 0}
            onClick={() => done(() => actions.begin(e.id, searching ? e.cap : cap))}
          >
            {searching || e.state === 'stopped' || e.state === 'failed'
              ? 'Continue'
              : e.kind === 'find'
                ? 'Buy records'
                : e.kind === 'fill'
                  ? 'Fill gaps'
                  : 'Check addresses'}
          </button>
        </div>
      )}
      {actions && under && (
        <button type="button" className="button mt-3" disabled={busy} onClick={() => done(() => actions.stop(e.id))}>
          Stop
        </button>
      )}
    </section>
  )
}

function pricesText(e: EnquiryView, currency: string): string {
  if (!e.prices) return ''
  if (e.kind === 'find') return `${priceText(e.prices.fetch, currency)} each`
  const { fill, check } = e.prices
  const prices =
    e.kind === 'fill'
      ? FILL_OUTCOMES.map((outcome) => [outcome, fill[outcome]] as const)
      : CHECK_STATES.map((state) => [state, check[state]] as const)
  return prices.map(([outcome, price]) => `${outcome} ${priceText(price, currency)}`).join(', ')
}

/** A search that finds more than is given out: split it, or narrow it. */
export function TooMany({
  e,
  actions,
  busy,
  done,
  router,
  onTold,
}: Work & { router: ReturnType<typeof useRouter>; onTold: (told: string) => void }) {
  const n = e.narrowing
  const [subKinds, setSubKinds] = useState<string[]>([])
  const [districts, setDistricts] = useState<string[]>([])
  if (!n || e.asked.kind !== 'find') return null
  const { split, search } = e.asked
  const short = e.parts.filter((p) => p.more > 0)
  const other: Split | null = split === null ? n.best : short.length > 0 ? (split === 'sub-kind' ? 'district' : 'sub-kind') : null
  const boxes = (legend: string, all: [string, number][], chosen: string[], onChosen: (chosen: string[]) => void) => (
    <fieldset className="grid max-h-44 gap-0.5 overflow-y-auto">
      <legend className="quiet mb-1">{legend}</legend>
      {all.map(([name, has]) => (
        <label key={name} className="flex items-center justify-between gap-2">
          <span className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={chosen.includes(name)}
              onChange={(event) => onChosen(event.target.checked ? [...chosen, name] : chosen.filter((c) => c !== name))}
            />
            {name}
          </span>
          <span className="tabular-nums text-soft">{count(has)}</span>
        </label>
      ))}
    </fieldset>
  )
  return (
    <section className="said mt-3" aria-label="More than is given out">
      {split === null ? (
        <p>
          {count(n.total)} are there, and the source gives out at most {count(n.most)} a search: the first {count(n.most)} came.
        </p>
      ) : short.length > 0 ? (
        <p>
          Split by {split}, {count(short.length)} of {count(e.parts.length)} parts still have more than is given out;{' '}
          {count(short.reduce((sum, p) => sum + p.more, 0))} are missing.
        </p>
      ) : (
        <p>
          {e.total === n.total
            ? `Split by ${split} into ${count(e.parts.length)} parts, all ${count(n.total)} came, none twice.`
            : `Split by ${split} into ${count(e.parts.length)} parts, ${count(e.total)} came, where ${count(n.total)} were told at first.`}
        </p>
      )}
      {actions && other && (
        <div className="mt-2 flex flex-wrap gap-2">
          <button type="button" className="button button-main" disabled={busy} onClick={() => done(() => actions.split(e.id, other))}>
            Split it by {other}
          </button>
          {split === null && (
            <button
              type="button"
              className="button"
              disabled={busy}
              onClick={() => done(() => actions.split(e.id, other === 'district' ? 'sub-kind' : 'district'))}
            >
              By {other === 'district' ? 'sub-kind' : 'district'}
            </button>
          )}
        </div>
      )}
      {actions && split === null && (
        <details className="mt-2">
          <summary className="cursor-pointer font-semibold text-verdigris">Narrow it instead</summary>
          <div className="mt-2 grid grid-cols-2 gap-4">
            {boxes('Sub-kinds', n.subKinds, subKinds, setSubKinds)}
            {boxes('Districts', n.districts, districts, setDistricts)}
          </div>
          <button
            type="button"
            className="button mt-2"
            disabled={busy || subKinds.length + districts.length === 0}
            onClick={async () => {
              const result = await actions.find(e.source as SearchedName, { ...search, subKinds, districts })
              if (result.ok) router.push(`/intake/enquiries/${result.value}`)
              else onTold(result.error)
            }}
          >
            Find these
          </button>
        </details>
      )}
    </section>
  )
}

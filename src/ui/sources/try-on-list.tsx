'use client'

import { useState } from 'react'
import { CHANNEL_TITLE, CHANNELS } from '@/core/records/channels'
import type { EnquiryView } from '@/core/sources/enquiry'
import type { TriedView } from '@/core/sources/tried'
import { priceText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'
import { count } from '@/ui/book/figures'

interface Trying {
  e: EnquiryView
  /** Lists of what the source has. */
  lists: { id: number; name: string }[]
  chosen: number | null
  onChoose: (list: number | null) => void
  tried: TriedView | undefined
  told: string | null
  busy: boolean
  buy: (list: number, how: { open: boolean; most: number }) => Promise<ActionResult<unknown>>
  done: (work: () => Promise<ActionResult<unknown>>) => void
}

/** What a list would make of what was found, before anything is paid for; and those it would take, bought with one press. */
export function TryOnList({ e, lists, chosen, onChoose, tried, told, busy, buy, done }: Trying) {
  const [open, setOpen] = useState(false)
  const each = e.prices?.fetch ?? 0
  const untold = tried ? tried.lines.reduce((sum, line) => sum + line.open, 0) : 0
  const bought = tried ? tried.on + (open ? untold : 0) : 0
  return (
    <section className="mt-5" aria-label="Try on a list">
      <label className="field">
        <span>Check against a list before you buy</span>
        <select value={chosen ?? ''} onChange={(event) => onChoose(event.target.value === '' ? null : Number(event.target.value))}>
          <option value="">Choose a list</option>
          {lists.map((list) => (
            <option key={list.id} value={list.id}>
              {list.name}
            </option>
          ))}
        </select>
      </label>
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
      {tried && (
        <>
          <table className="account mt-3" aria-label={`What ${tried.list.name} would make of them`}>
            <thead>
              <tr>
                <th scope="col">Line</th>
                <th scope="col" className="figure">
                  Left out
                </th>
                <th scope="col" className="figure">
                  Not known yet
                </th>
              </tr>
            </thead>
            <tbody>
              {tried.lines.map((line) => (
                <tr key={line.number}>
                  <td>
                    {line.number} {line.text}
                  </td>
                  <td className="figure text-madder">{line.out === 0 ? '' : count(line.out)}</td>
                  <td className="figure text-ochre">{line.open === 0 ? '' : count(line.open)}</td>
                </tr>
              ))}
              <tr className="total">
                <td>Would be on the list, of {count(tried.tried)}</td>
                <td />
                <td className="figure" data-testid="would-be-on">
                  {count(tried.on)}
                </td>
              </tr>
            </tbody>
          </table>
          {tried.clear && tried.on > 0 && (
            <p className="quiet mt-2">
              Clear by {tried.list.policy}, as far as we know now:{' '}
              {CHANNELS.map((channel) => `${CHANNEL_TITLE[channel].toLowerCase()} ${count(tried.clear?.[channel] ?? 0)}`).join(', ')}. Their
              addresses and numbers are screened again when you import them.
            </p>
          )}
          {untold > 0 && <p className="quiet mt-1">Not known yet: the source shows what these lines ask about only after you buy.</p>}
          {tried.limits.length > 0 && (
            <p className="quiet mt-1">
              {tried.limits.length === 1 ? 'Line' : 'Lines'} {tried.limits.join(', ')} limits the list. Its effect is not included here.
            </p>
          )}
          {untold > 0 && (
            <label className="mt-2 flex items-center gap-2">
              <input type="checkbox" checked={open} onChange={(event) => setOpen(event.target.checked)} /> Also buy the {count(untold)} not
              known yet
            </label>
          )}
          <button
            type="button"
            className="button button-main mt-3"
            disabled={busy || bought === 0}
            onClick={() => done(() => buy(tried.list.id, { open, most: bought }))}
          >
            Buy the {count(bought)} {open ? 'that may be on the list' : 'that would be on the list'}
            {e.prices && `, ${priceText(bought * each, e.prices.currency)}`}
          </button>
        </>
      )}
    </section>
  )
}

'use client'

import { useState } from 'react'
import { OWNER_KINDS } from '@/core/clean/premises'
import { type LetterChoice, lettersCost, NAMED_FIRST, RECIPIENTS, type Recipient, WORDINGS } from '@/core/rounds/letter-choice'
import type { PremisesRoundAccount } from '@/core/views/premises-round-views'
import { moneyText } from '@/core/text/written'
import { count } from '@/ui/book/figures'

const TO: Record<Recipient, string> = { occupier: 'Whoever lives or works there', owner: 'The owner, at their own address' }
const WORDING = (resident: string): Record<LetterChoice['wording'], string> => ({
  name: 'The name',
  'name or resident': `The name or “${resident}”`,
  resident: `“${resident}”`,
  household: 'The household together, by name',
})
const FIRST: Record<LetterChoice['first'], string> = { latest: 'latest taken over', largest: 'largest', name: 'by name' }
const KIND: Record<(typeof OWNER_KINDS)[number], string> = {
  individual: 'Individuals',
  company: 'Companies',
  trust: 'Trusts',
  'public body': 'Public bodies',
}

/** To whom the letters of a round of premises go, with what the other choice would change. */
export function LetterChoiceForm({
  choice,
  account,
  editable,
  onChange,
}: {
  choice: LetterChoice
  account: PremisesRoundAccount | undefined
  editable: boolean
  onChange: (choice: LetterChoice) => void
}) {
  const put = (part: Partial<LetterChoice>) => onChange({ ...choice, ...part })
  const own = account && { letters: account.figures.letters, abroad: account.figures.abroad, several: account.figures.several }
  return (
    <fieldset className="mt-3 rounded-lg border border-rule bg-leaf px-4 py-3" disabled={!editable}>
      <legend className="px-1 font-semibold">Letters to</legend>
      <div className="grid gap-1">
        {RECIPIENTS.map((to) => {
          const told = to === choice.to ? own : account?.other
          return (
            <label key={to} className="flex min-h-7 items-center gap-2">
              <input type="radio" name="to" checked={choice.to === to} onChange={() => put({ to })} />
              <span>
                {TO[to]}
                {told && <span className="quiet"> · {lettersText(told, { ...choice, to })}</span>}
              </span>
            </label>
          )
        })}
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2">
        {choice.to === 'occupier' ? (
          <>
            <label className="field">
              <span>Addressed to</span>
              <select value={choice.wording} onChange={(event) => put({ wording: event.target.value as LetterChoice['wording'] })}>
                {WORDINGS.map((wording) => (
                  <option key={wording} value={wording}>
                    {WORDING(choice.resident)[wording]}
                  </option>
                ))}
              </select>
            </label>
            {(choice.wording === 'resident' || choice.wording === 'name or resident') && (
              <Typed
                label="Where nobody is named"
                value={choice.resident}
                kept={(resident) => resident.trim().length >= 3 && put({ resident })}
              />
            )}
          </>
        ) : (
          <>
            <label className="field">
              <span>A letter about several names</span>
              <select value={choice.most} onChange={(event) => put({ most: Number(event.target.value) })}>
                {[1, 2, 3].map((most) => (
                  <option key={most} value={most}>
                    {most === 1 ? 'one of them' : `up to ${most}`}
                  </option>
                ))}
              </select>
            </label>
            <label className="field">
              <span>First</span>
              <select value={choice.first} onChange={(event) => put({ first: event.target.value as LetterChoice['first'] })}>
                {NAMED_FIRST.map((first) => (
                  <option key={first} value={first}>
                    {FIRST[first]}
                  </option>
                ))}
              </select>
            </label>
          </>
        )}
        <Typed
          label="Days since the last letter"
          value={choice.restDays === null ? '' : String(choice.restDays)}
          kind="number"
          kept={(days) => put({ restDays: days === '' ? null : Number(days) })}
        />
        {(['costHome', 'costAbroad'] as const).map((key) => (
          <Typed
            key={key}
            label={key === 'costHome' ? 'Pence or cents a letter' : 'Abroad'}
            value={choice[key] === null ? '' : String(choice[key])}
            kind="number"
            least={0}
            empty="no price"
            kept={(price) => put({ [key]: price === '' ? null : Number(price) })}
          />
        ))}
      </div>
      {choice.to === 'owner' && (
        <div className="mt-1 flex flex-wrap items-center gap-x-4" role="group" aria-label="Leave out owners">
          <span className="quiet">Leave out</span>
          {OWNER_KINDS.map((kind) => (
            <label key={kind} className="flex min-h-7 items-center gap-1.5">
              <input
                type="checkbox"
                checked={choice.without.includes(kind)}
                onChange={(event) =>
                  put({ without: event.target.checked ? [...choice.without, kind] : choice.without.filter((own) => own !== kind) })
                }
              />
              {KIND[kind]}
            </label>
          ))}
          <label className="flex min-h-7 items-center gap-1.5">
            <input type="checkbox" checked={!choice.abroad} onChange={(event) => put({ abroad: !event.target.checked })} />
            Owners abroad
          </label>
        </div>
      )}
      <div className="mt-1 flex flex-wrap items-center gap-x-4">
        <label className="flex min-h-7 items-center gap-1.5">
          <input type="checkbox" checked={!choice.customers} onChange={(event) => put({ customers: !event.target.checked })} />
          Leave out customers and our own people
        </label>
        <label className="flex min-h-7 items-center gap-1.5">
          <input type="checkbox" checked={choice.onlyNew} onChange={(event) => put({ onlyNew: event.target.checked })} />
          Only addresses that got no letter of an earlier round of this list
        </label>
      </div>
    </fieldset>
  )
}

/** What a choice comes to, in words. */
export function lettersText(figures: { letters: number; abroad: number; several: number }, choice: LetterChoice): string {
  const { letters, abroad, several } = figures
  const { to } = choice
  const cost = lettersCost(figures, choice)
  return [
    letters === 1 ? '1 letter' : `${count(letters)} letters`,
    ...(to === 'owner' ? [`${count(abroad)} abroad`] : []),
    ...(several > 0 ? [to === 'owner' ? `${count(several)} to owners of several` : `${count(several)} about several premises`] : []),
    ...(cost === null ? [] : [moneyText(cost / 100)]),
  ].join(', ')
}

/** A field that is kept when one leaves it or presses Enter. */
function Typed({
  label,
  value,
  kind = 'text',
  least = 1,
  empty = 'any',
  kept,
}: {
  label: string
  value: string
  kind?: 'text' | 'number'
  least?: number
  empty?: string
  kept: (value: string) => void
}) {
  const [typed, setTyped] = useState(value)
  const [of, setOf] = useState(value)
  if (of !== value) {
    setOf(value)
    setTyped(value)
  }
  const keep = () => typed.trim() !== value && kept(typed.trim())
  return (
    <label className="field">
      <span>{label}</span>
      <input
        type={kind}
        {...(kind === 'number' ? { min: least, className: 'w-28', placeholder: empty } : { maxLength: 60 })}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
    </label>
  )
}

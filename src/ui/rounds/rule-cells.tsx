'use client'

import { Popover } from 'radix-ui'
import { useState } from 'react'
import type { Phrase } from '@/core/criteria/kind'
import type { Rule } from '@/core/screening/rules'
import { WaysField } from '@/ui/lists/contacted-fields'

/** The sentence of a rule with its chips, in the first cell of its row. */
export function RuleCells({
  rule,
  phrases,
  note,
  editable,
  optional,
  onChange,
}: {
  rule: Rule
  phrases: Phrase[]
  note: string
  editable: boolean
  optional: boolean
  onChange: (rule: Rule) => void
}) {
  const off = 'off' in rule && rule.off === true
  return (
    <td className={off ? 'text-soft' : ''}>
      <span className={`font-semibold ${off ? 'line-through' : ''}`}>
        {phrases.map((phrase) =>
          'text' in phrase ? (
            `${phrase.text} `
          ) : (
            <DaysChip key={phrase.field} rule={rule} chip={phrase.chip} editable={editable} onChange={onChange} />
          ),
        )}
      </span>
      <span className="quiet block">
        {note}
        {rule.kind === 'another-round' && editable && !off && (
          <button
            type="button"
            className="ml-2 font-semibold text-verdigris hover:underline"
            onClick={() => onChange({ ...rule, closes: rule.closes === 'every channel' ? 'the same channel' : 'every channel' })}
          >
            {rule.closes === 'every channel' ? 'Close only that channel' : 'Close every channel'}
          </button>
        )}
        {optional && editable && (
          <button
            type="button"
            className="ml-2 font-semibold text-verdigris hover:underline"
            onClick={() => onChange({ ...rule, off: !off } as Rule)}
          >
            {off ? 'Switch on' : 'Switch off'}
          </button>
        )}
      </span>
    </td>
  )
}

function DaysChip({ rule, chip, editable, onChange }: { rule: Rule; chip: string; editable: boolean; onChange: (rule: Rule) => void }) {
  const [open, setOpen] = useState(false)
  const [days, setDays] = useState(rule.kind === 'contacted-within' ? rule.days : 0)
  if (rule.kind !== 'contacted-within') return <span>{chip}</span>
  const shown = `${rule.days} days`
  if (!editable) return <span className="chip">{shown}</span>
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="chip">{shown}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="floating w-[300px]" align="start" sideOffset={6} aria-label="Change the rule">
          <form
            className="grid gap-3"
            onSubmit={(event) => {
              event.preventDefault()
              if (days >= 1) onChange({ ...rule, days })
              setOpen(false)
            }}
          >
            <label className="field">
              <span>Days to hold back after a contact</span>
              <input type="number" min={1} max={3650} value={days || ''} onChange={(e) => setDays(Number(e.target.value))} />
            </label>
            <WaysField
              ways={rule.ways}
              onWays={(ways) => {
                const { ways: _, ...rest } = rule
                onChange(ways ? { ...rest, ways } : rest)
              }}
            />
            <label className="field">
              <span>A contact closes</span>
              <select
                value={rule.closes}
                onChange={(e) => onChange({ ...rule, days: days || rule.days, closes: e.target.value as typeof rule.closes })}
              >
                <option>every channel</option>
                <option>the same channel</option>
              </select>
            </label>
            <button type="submit" className="button button-main justify-self-end">
              Done
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

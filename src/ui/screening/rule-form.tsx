'use client'

import { Popover } from 'radix-ui'
import { type ReactNode, useRef, useState } from 'react'
import { CHANNEL_NAME, CHANNELS, type Channel } from '@/core/records/channels'
import type { RuleField } from '@/core/screening/kind'
import { countryCode, countryName } from '@/core/clean/country'
import { isOfSet, type Rule, ruleKind } from '@/core/screening/rules'

/** A form of more fields than this stands in four columns. */
const MOST_NARROW = 8

type Draft = Rule & Record<string, unknown>

/** The settings of a rule, opened from a chip of its sentence. `asksWhy` also asks for a reason, which goes with the change. */
export function RuleForm({
  rule,
  children,
  asksWhy = false,
  effect,
  onChange,
}: {
  rule: Rule
  children: ReactNode
  asksWhy?: boolean
  /** What the rule as it is filled in would do. */
  effect?: (draft: Rule) => ReactNode
  onChange: (rule: Rule, why: string) => void
}) {
  const [open, setOpen] = useState(false)
  const line = useRef<HTMLDivElement>(null)
  const anchor = useRef({ getBoundingClientRect: () => inSight(line.current?.getBoundingClientRect() ?? new DOMRect()) })
  const [draft, setDraft] = useState<Draft>(rule as Draft)
  const [why, setWhy] = useState('')
  const [told, setTold] = useState('')
  const { name, form, schema, optional } = ruleKind(rule)
  const long = form.length > MOST_NARROW
  const set = (key: string, value: unknown) =>
    setDraft((before) => {
      const { [key]: _, ...rest } = before as Record<string, unknown>
      return (value === undefined ? rest : { ...rest, [key]: value }) as Draft
    })
  return (
    <Popover.Root
      open={open}
      onOpenChange={(to) => {
        if (to) {
          setDraft(rule as Draft)
          setWhy('')
          setTold('')
        }
        setOpen(to)
      }}
    >
      <div ref={line}>{children}</div>
      <Popover.Anchor virtualRef={anchor} />
      <Popover.Portal>
        <Popover.Content
          className={`floating ${long ? 'w-[680px]' : 'w-[420px]'}`}
          align="start"
          sideOffset={6}
          collisionPadding={12}
          aria-label={`Change: ${name}`}
        >
          <form
            className="grid gap-3"
            onSubmit={(event) => {
              event.preventDefault()
              try {
                schema.validateSync(draft, { strict: true })
              } catch (error) {
                return setTold((error as Error).message)
              }
              onChange(draft, why)
              setOpen(false)
            }}
          >
            <div className={`grid items-end gap-3 ${long ? 'grid-cols-4' : 'grid-cols-2'}`}>
              {form.map((field) => (
                <div key={field.key} className={long || field.is === 'number' ? '' : 'col-span-2'}>
                  <Setting field={field} value={draft[field.key]} onSet={(value) => set(field.key, value)} />
                </div>
              ))}
            </div>
            {optional && !isOfSet(rule) && (
              <Countries
                label="Countries it covers, separated by commas (empty: all)"
                codes={draft.countries as string[] | undefined}
                onSet={(countries) => set('countries', countries)}
              />
            )}
            {rule.kind === 'register' && (
              <Countries
                label="Countries where an established relationship opens a number on the register"
                codes={draft.established as string[] | undefined}
                onSet={(countries) => set('established', countries)}
              />
            )}
            {optional && <Covers channels={draft.channels as Channel[] | undefined} onSet={(channels) => set('channels', channels)} />}
            {asksWhy && (
              <label className="field">
                <span>Why, for this round alone</span>
                <input value={why} maxLength={400} onChange={(event) => setWhy(event.target.value)} />
              </label>
            )}
            {effect?.(draft)}
            {told && (
              <p role="alert" className="told">
                {told}
              </p>
            )}
            <button type="submit" className="button button-main justify-self-end">
              Change rule
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

function Setting({ field, value, onSet }: { field: RuleField<Rule>; value: unknown; onSet: (value: unknown) => void }) {
  if (field.is === 'number')
    return (
      <label className="field">
        <span>
          {field.label} ({field.unit}
          {field.empty && `; empty: ${field.empty}`})
        </span>
        <input
          type="number"
          min={field.least}
          max={field.most}
          required={field.empty === undefined}
          value={typeof value === 'number' ? value : ''}
          onChange={(event) => onSet(event.target.value === '' ? undefined : Number(event.target.value))}
        />
      </label>
    )
  if (field.is === 'one')
    return (
      <label className="field">
        <span>{field.label}</span>
        <select value={String(value ?? '')} onChange={(event) => onSet(event.target.value)}>
          {field.of.map(([key, title]) => (
            <option key={key} value={key}>
              {title}
            </option>
          ))}
        </select>
      </label>
    )
  const chosen = Array.isArray(value) ? (value as string[]) : []
  return (
    <fieldset>
      <legend className="quiet mb-1 font-semibold">
        {field.label}
        {field.all && ` (choose none for ${field.all})`}
      </legend>
      <Choices of={field.of} chosen={chosen} onChoose={(next) => onSet(next.length === 0 && field.all !== undefined ? undefined : next)} />
    </fieldset>
  )
}

/** Countries by their names or codes; what is none is told and left out. */
function Countries({ label, codes, onSet }: { label: string; codes: string[] | undefined; onSet: (codes: string[] | undefined) => void }) {
  const [text, setText] = useState((codes ?? []).map(countryName).join(', '))
  const words = text
    .split(/[,;\n]/)
    .map((word) => word.trim())
    .filter(Boolean)
  const unknown = words.filter((word) => countryCode(word) === null)
  return (
    <label className="field">
      <span>{label}</span>
      <input
        value={text}
        maxLength={1500}
        onChange={(event) => {
          setText(event.target.value)
          const found = [...new Set(event.target.value.split(/[,;\n]/).flatMap((word) => countryCode(word) ?? []))]
          onSet(found.length === 0 ? undefined : found)
        }}
      />
      {unknown.length > 0 && <span className="text-madder">No country is called {unknown.join(', ')}.</span>}
    </label>
  )
}

/** The channels a rule covers; all of them is not said. */
function Covers({ channels, onSet }: { channels: Channel[] | undefined; onSet: (channels: Channel[] | undefined) => void }) {
  return (
    <fieldset>
      <legend className="quiet mb-1 font-semibold">Channels it covers</legend>
      <Choices
        of={CHANNELS.map((channel) => [channel, CHANNEL_NAME[channel]])}
        chosen={channels ?? CHANNELS}
        onChoose={(next) => onSet(next.length === CHANNELS.length ? undefined : (next as Channel[]))}
      />
    </fieldset>
  )
}

function Choices({
  of,
  chosen,
  onChoose,
}: {
  of: readonly (readonly [value: string, title: string])[]
  chosen: readonly string[]
  onChoose: (chosen: string[]) => void
}) {
  return (
    <span className="flex flex-wrap gap-x-3 gap-y-1">
      {of.map(([key, title]) => (
        <label key={key} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={chosen.includes(key)}
            onChange={(event) =>
              onChoose(of.map(([own]) => own).filter((own) => (own === key ? event.target.checked : chosen.includes(own))))
            }
          />{' '}
          {title}
        </label>
      ))}
    </span>
  )
}

/** A place that is in sight: figures that come later can push a rule out of it while its form is open. */
function inSight({ x, y, width, height }: DOMRect): DOMRect {
  const top = Math.min(Math.max(y, 0), window.innerHeight - height)
  return new DOMRect(x, top, width, height)
}

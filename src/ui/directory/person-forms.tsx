'use client'

import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { PersonPage } from '@/core/views/record-views'
import { LEFT, RESULTS } from '@/core/records/results'
import type { TakeBackMerge } from './take-back-merge'
import { CHANNEL_NAME, CHANNELS, type Way, WAYS } from '@/core/records/channels'
import { type Reason, REASON_NAME, REASONS } from '@/core/records/suppression'

export interface PersonActions {
  contact: (person: number, input: unknown) => Promise<ActionResult<unknown>>
  note: (person: number, text: string) => Promise<ActionResult<unknown>>
  setField: (person: number, field: number, value: string) => Promise<ActionResult<unknown>>
  suppressPerson: (person: number, input: unknown) => Promise<ActionResult<unknown>>
  lift: (id: number, word: string) => Promise<ActionResult<unknown>>
  merge: (keep: number, other: number) => Promise<ActionResult<unknown>>
  takeBack: TakeBackMerge
  /** Only for managers. */
  erase?: (person: number) => Promise<ActionResult<unknown>>
}

/** Sets the fields of the team's own, those that were changed. */
export function OwnFieldsForm({
  person,
  custom,
  setField,
}: {
  person: number
  custom: PersonPage['custom']
  setField: PersonActions['setField']
}) {
  const send = async (form: FormData): Promise<ActionResult<unknown>> => {
    for (const { field, value } of custom) {
      const next = String(form.get(`field-${field.id}`) ?? '').trim()
      if (next === (value ?? '')) continue
      const result = await setField(person, field.id, next)
      if (!result.ok) return result
    }
    return { ok: true, value: null }
  }
  return (
    <Form title="Fields of our own" send={send} button="Save changes">
      {custom.map(({ field, value }) => (
        <label key={`${field.id} ${value}`} className="field" htmlFor={`field-${field.id}`}>
          <span>{field.name}</span>
          {field.kind === 'choice' || field.kind === 'yes or no' ? (
            <select id={`field-${field.id}`} name={`field-${field.id}`} defaultValue={value ?? ''}>
              <option value="">unknown</option>
              {(field.kind === 'choice' ? field.choices : ['yes', 'no']).map((choice) => (
                <option key={choice}>{choice}</option>
              ))}
            </select>
          ) : (
            <input
              id={`field-${field.id}`}
              name={`field-${field.id}`}
              type={field.kind === 'date' ? 'date' : 'text'}
              inputMode={field.kind === 'number' ? 'decimal' : undefined}
              maxLength={2000}
              defaultValue={value ?? ''}
            />
          )}
        </label>
      ))}
    </Form>
  )
}

/** Lifts a suppression, with the word it is lifted on. */
export function LiftForm({ id, lift }: { id: number; lift: PersonActions['lift'] }) {
  return (
    <Form title="Lift" send={(form) => lift(id, String(form.get('word') ?? ''))} button="Lift the suppression">
      <label className="field">
        <span>Who asked for it to be lifted</span>
        <input name="word" required maxLength={200} />
      </label>
      <label className="field">
        <span>Evidence, if there is any: a message, a note</span>
        <input name="evidence" maxLength={400} />
      </label>
    </Form>
  )
}

/** A form that opens from a button, sends once, and says what came of it. */
export function Form({
  title,
  button,
  send,
  children,
  open = false,
}: {
  title: string
  button: string
  send: (form: FormData) => Promise<ActionResult<unknown>>
  children: React.ReactNode
  open?: boolean
}) {
  const [told, setTold] = useState<string | null>(null)
  const [said, setSaid] = useState(false)
  const [busy, begin] = useTransition()
  return (
    <details open={open}>
      <summary className="cursor-pointer font-semibold text-verdigris">{title}</summary>
      <form
        className="mt-2 grid gap-2.5 rounded-lg border border-rule bg-leaf p-3"
        onSubmit={(event) => {
          event.preventDefault()
          const form = event.currentTarget
          begin(async () => {
            const result = await send(new FormData(form))
            setTold(result.ok ? null : result.error)
            setSaid(result.ok)
            if (result.ok) form.reset()
          })
        }}
      >
        {children}
        <div className="flex items-center gap-3">
          <button type="submit" className="button button-main" disabled={busy}>
            {button}
          </button>
          <span role="status" className="quiet">
            {said ? 'Saved in the ledger.' : ''}
          </span>
        </div>
        {told && (
          <p role="alert" className="told">
            {told}
          </p>
        )}
      </form>
    </details>
  )
}

/** The form that records a contact with a person. */
export function ContactForm({
  person,
  contact,
  maySucceed,
}: {
  person: number
  contact: PersonActions['contact']
  /** Whether this colleague may add whoever does the work of somebody who has left. */
  maySucceed: boolean
}) {
  const [channel, setChannel] = useState<Way>('phone')
  const [result, setResult] = useState(RESULTS.phone[0])
  const left = result === LEFT
  return (
    <Form
      open
      title="Record a contact"
      button="Record"
      send={(form) =>
        contact(person, {
          channel,
          result,
          note: form.get('note') || null,
          date: form.get('date') || null,
          successor: (left && form.get('successor')) || null,
        })
      }
    >
      <div className="grid grid-cols-3 gap-2.5">
        <label className="field">
          <span>How</span>
          <select
            value={channel}
            onChange={(e) => {
              const way = e.target.value as Way
              setChannel(way)
              if (!RESULTS[way].includes(result)) setResult(RESULTS[way][0])
            }}
          >
            {WAYS.map((c) => (
              <option key={c} value={c}>
                {CHANNEL_NAME[c]}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>Result</span>
          <select value={result} onChange={(e) => setResult(e.target.value)}>
            {RESULTS[channel].map((r) => (
              <option key={r}>{r}</option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>Day, if not today</span>
          <input type="date" name="date" />
        </label>
      </div>
      {left && <p className="quiet">It is reported as a change to confirm. Until somebody does, they stay with their organisation.</p>}
      {left && maySucceed && (
        <label className="field">
          <span>Who does their work now, if known</span>
          <input name="successor" maxLength={200} autoComplete="off" />
        </label>
      )}
      <label className="field">
        <span>Note</span>
        <textarea name="note" rows={2} maxLength={2000} />
      </label>
    </Form>
  )
}

/** The form that adds a note to a person. */
export function NoteForm({ person, note }: { person: number; note: PersonActions['note'] }) {
  return (
    <Form title="Add a note" button="Add the note" send={(form) => note(person, String(form.get('text') ?? ''))}>
      <label className="field">
        <span>Note</span>
        <textarea name="text" rows={3} required maxLength={2000} />
      </label>
    </Form>
  )
}

/** Enters a suppression. Whatever stands in `children` says of whom, where it is not this very record. */
export function SuppressForm({
  label,
  suppress,
  channels = true,
  open,
  children,
}: {
  label: string
  suppress: (input: unknown, form: FormData) => Promise<ActionResult<unknown>>
  channels?: boolean
  open?: boolean
  children?: React.ReactNode
}) {
  const [reason, setReason] = useState<Reason>(REASONS[0])
  return (
    <Form
      title={label}
      button="Suppress"
      open={open}
      send={(form) =>
        suppress(
          {
            reason: form.get('reason'),
            channels: channels ? form.getAll('channels') : [...CHANNELS],
            since: form.get('since') || null,
            until: form.get('until') || null,
            word: form.get('word'),
            evidence: form.get('evidence') || null,
            wholeProvider: form.get('wholeProvider') === 'on',
          },
          form,
        )
      }
    >
      {children}
      <div className="grid grid-cols-2 gap-2.5">
        <label className="field col-span-2">
          <span>Reason</span>
          <select name="reason" value={reason} onChange={(event) => setReason(event.target.value as Reason)}>
            {REASONS.map((own) => (
              <option key={own} value={own}>
                {REASON_NAME[own]}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>Since, if not today</span>
          <input type="date" name="since" />
        </label>
        <label className="field">
          <span>Until, if not for good</span>
          <input type="date" name="until" />
        </label>
      </div>
      {channels && (
        <fieldset className="flex flex-wrap gap-3">
          <legend className="quiet font-semibold">
            Channels{reason === 'register' && ': a do-not-call register closes the phone only'}
          </legend>
          {CHANNELS.map((c) => (
            <label key={c} className="flex items-center gap-1.5">
              <input type="checkbox" name="channels" value={c} defaultChecked disabled={reason === 'register' && c !== 'phone'} />{' '}
              {CHANNEL_NAME[c]}
            </label>
          ))}
        </fieldset>
      )}
      <label className="field">
        <span>Requested by</span>
        <input name="word" required maxLength={200} />
      </label>
      <label className="field">
        <span>Evidence, if there is any: a message, a note</span>
        <input name="evidence" maxLength={400} />
      </label>
    </Form>
  )
}

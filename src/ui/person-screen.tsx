'use client'

import Link from 'next/link'
import { useState, useTransition } from 'react'
import { CHANNEL_NAME, CHANNELS, REASON_NAME, REASONS, SCOPE_NAME, type Way, WAYS } from '@/core/columns/person-record'
import type { ActionResult, PersonPage } from '@/core/outputs/views'
import { RESULTS } from '@/core/rounds/results'
import { useBook } from './book'
import { count, day } from './figures'
import { Reach } from './reach'
import { Ledger } from './ledger'
import { MergeForm } from './merge-form'
import { TakeBack } from './take-back'
import { Spread } from './spread'
import { YearStrip } from './year-strip'

export interface PersonActions {
  contact: (person: number, input: unknown) => Promise<ActionResult<unknown>>
  note: (person: number, text: string) => Promise<ActionResult<unknown>>
  suppressPerson: (person: number, input: unknown) => Promise<ActionResult<unknown>>
  lift: (id: number, word: string) => Promise<ActionResult<unknown>>
  merge: (keep: number, other: number) => Promise<ActionResult<unknown>>
  takeBack: (merged: number) => Promise<ActionResult<unknown>>
}

/** One person: what is known and what can be done on the left, their ledger on the right. */
export function PersonScreen({ person, mayLift, actions }: { person: PersonPage; mayLift: boolean; actions: PersonActions }) {
  const { view } = person
  return (
    <Spread
      label={{ left: 'The person', right: 'The ledger' }}
      left={
        <>
          <div className="flex items-start justify-between gap-3">
            <h1 className="min-w-0 break-words">{view.name}</h1>
            {person.state === 'live' && <OnListInHand id={view.id} />}
          </div>
          {person.mergedInto && (
            <p role="status" className="told my-2">
              Merged into{' '}
              <Link href={`/directory/people/${person.mergedInto.id}`} className="font-semibold">
                {person.mergedInto.name}
              </Link>
              , whose ledger goes on.
              {mayLift && <TakeBack merged={view.id} takeBack={actions.takeBack} />}
            </p>
          )}
          {person.state === 'withdrawn' && <p className="told my-2">Withdrawn from the directory. The ledger stays.</p>}
          <p className="text-soft">
            {view.role ?? 'no role'}
            {view.organisation && (
              <>
                {', '}
                <Link href={`/directory/organisations/${view.organisationId}`} className="text-ink">
                  {view.organisation}
                </Link>
              </>
            )}
          </p>
          <div className="mt-2 flex items-center gap-5">
            <Reach reach={view.reach} />
            <YearStrip strip={view.strip} width={180} />
          </div>
          <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
            {person.addresses.map((a) => (
              <div key={a.id} className="contents">
                <dt className="text-soft">{CHANNEL_NAME[a.channel]}</dt>
                <dd className="break-words">
                  {a.suppressed ? <s className="text-madder">{a.value}</s> : a.value}
                  {!a.usable && <span className="quiet"> unusable: {a.why}</span>}
                  {a.about && <span className="quiet"> {a.about}</span>}
                  {a.suppressed && <span className="quiet"> suppressed: {a.suppressed}</span>}
                </dd>
              </div>
            ))}
            <dt className="text-soft">relation to us</dt>
            <dd>{person.relation ?? 'unknown'}</dd>
            {person.tags.length > 0 && (
              <>
                <dt className="text-soft">tags</dt>
                <dd>{person.tags.join(', ')}</dd>
              </>
            )}
            {person.outsideId && (
              <>
                <dt className="text-soft">outside id</dt>
                <dd>{person.outsideId}</dd>
              </>
            )}
          </dl>
          {person.mergedHere.length > 0 && (
            <p className="quiet mt-3">
              Took in{' '}
              {person.mergedHere.map((m, i) => (
                <span key={m.id}>
                  {i > 0 && ', '}
                  <Link href={`/directory/people/${m.id}`}>{m.name}</Link>
                </span>
              ))}
            </p>
          )}
          {person.came.length > 0 && <AsItCame came={person.came} />}
          <Suppressions person={person} mayLift={mayLift} lift={actions.lift} />
          {person.state === 'live' && (
            <div className="mt-5 grid gap-4">
              <ContactForm person={view.id} contact={actions.contact} />
              <NoteForm person={view.id} note={actions.note} />
              <SuppressForm label="Suppress this person" suppress={(input) => actions.suppressPerson(view.id, input)} />
              {mayLift && <MergeForm keep={view.id} name={view.name} merge={actions.merge} />}
            </div>
          )}
        </>
      }
      right={
        <>
          <h2>Ledger</h2>
          {person.lists.length > 0 && (
            <p className="quiet">
              In {count(person.lists.length)} {person.lists.length === 1 ? 'round' : 'rounds'}:{' '}
              {person.lists.map((l, i) => (
                <span key={l.roundId}>
                  {i > 0 && ', '}
                  <Link href={`/rounds/${l.roundId}`}>
                    round {l.round} of {l.list}
                  </Link>
                  {l.heldBack && ' (held back)'}
                </span>
              ))}
            </p>
          )}
          <Ledger items={person.ledger} />
        </>
      }
    />
  )
}

function Suppressions({ person, mayLift, lift }: { person: PersonPage; mayLift: boolean; lift: PersonActions['lift'] }) {
  if (person.suppressions.length === 0) return null
  return (
    <section className="mt-5" aria-label="Suppressions">
      <h2>Suppressions</h2>
      <ul className="mt-1">
        {person.suppressions.map((s) => (
          <li key={s.id} className="border-b border-rule py-1.5">
            <span className={s.lifted ? 'text-soft line-through' : 'text-madder'}>
              {REASON_NAME[s.reason]}, {s.channels.map((c) => CHANNEL_NAME[c]).join(', ')}
              {s.scope !== 'person' && ` (by ${SCOPE_NAME[s.scope]} ${s.who})`}
            </span>
            <span className="quiet block">
              since {day(s.since)}
              {s.until ? ` until ${day(s.until)}` : ''} · {s.word} · entered by {s.by}
            </span>
            {s.lifted ? (
              <span className="quiet block">
                lifted {day(s.lifted.at)} by {s.lifted.by}: {s.lifted.word}
              </span>
            ) : (
              mayLift && <LiftForm id={s.id} lift={lift} />
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Puts one person on the list in hand or takes them off it. */
function OnListInHand({ id }: { id: number }) {
  const { hand, put } = useBook()
  const [busy, begin] = useTransition()
  if (!hand) return null
  return (
    <span className="flex shrink-0 gap-1.5">
      <button type="button" className="button px-2! py-0.5!" disabled={busy} onClick={() => begin(() => put('in', { people: [id] }))} title={`Put on ${hand.name}`}>
        Put on the list
      </button>
      <button type="button" className="button px-2! py-0.5!" disabled={busy} onClick={() => begin(() => put('out', { people: [id] }))} title={`Take off ${hand.name}`}>
        Take off
      </button>
    </span>
  )
}

/** Lifts a suppression, with the word it is lifted on. */
export function LiftForm({ id, lift }: { id: number; lift: PersonActions['lift'] }) {
  return (
    <Form title="Lift" send={(form) => lift(id, String(form.get('word') ?? ''))} button="Lift the suppression">
      <label className="field">
        <span>On whose word is it lifted</span>
        <input name="word" required maxLength={200} />
      </label>
    </Form>
  )
}

/** A form that folds out, sends, says what happened and empties itself once it worked. */
/** The rows of files somebody was in, cell by cell as they came. */
function AsItCame({ came }: { came: PersonPage['came'] }) {
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-semibold text-verdigris">As it came, {came.length === 1 ? 'in one row' : `in ${count(came.length)} rows`}</summary>
      {came.map((row) => (
        <div key={`${row.batch} ${row.row}`} className="mt-2 rounded-lg border border-rule p-3">
          <p className="quiet">
            <Link href={`/intake/${row.batch}`}>{row.file}</Link>, row {count(row.row)}, {day(row.at)}
          </p>
          <dl className="mt-1 grid grid-cols-[120px_1fr] gap-x-3 text-[13px]">
            {row.cells.map(({ title, cell }) => (
              <div key={title} className="contents">
                <dt className="break-words text-soft">{title}</dt>
                <dd className="break-words whitespace-pre-wrap">{cell}</dd>
              </div>
            ))}
          </dl>
        </div>
      ))}
    </details>
  )
}

export function Form({ title, button, send, children, open = false }: { title: string; button: string; send: (form: FormData) => Promise<ActionResult<unknown>>; children: React.ReactNode; open?: boolean }) {
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
            {said ? 'Done, and in the ledger.' : ''}
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

function ContactForm({ person, contact }: { person: number; contact: PersonActions['contact'] }) {
  const [channel, setChannel] = useState<Way>('phone')
  return (
    <Form
      open
      title="Record a contact"
      button="Record"
      send={(form) => contact(person, { channel, result: form.get('result') || null, note: form.get('note') || null, date: form.get('date') || null })}
    >
      <div className="grid grid-cols-3 gap-2.5">
        <label className="field">
          <span>How</span>
          <select value={channel} onChange={(e) => setChannel(e.target.value as Way)}>
            {WAYS.map((c) => (
              <option key={c} value={c}>
                {CHANNEL_NAME[c]}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>Result</span>
          <select name="result">
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
      <label className="field">
        <span>Note</span>
        <textarea name="note" rows={2} maxLength={2000} />
      </label>
    </Form>
  )
}

function NoteForm({ person, note }: { person: number; note: PersonActions['note'] }) {
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
export function SuppressForm({ label, suppress, channels = true, open, children }: { label: string; suppress: (input: unknown, form: FormData) => Promise<ActionResult<unknown>>; channels?: boolean; open?: boolean; children?: React.ReactNode }) {
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
          },
          form,
        )
      }
    >
      {children}
      <div className="grid grid-cols-2 gap-2.5">
        <label className="field col-span-2">
          <span>Reason</span>
          <select name="reason">
            {REASONS.map((reason) => (
              <option key={reason} value={reason}>
                {REASON_NAME[reason]}
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
          <legend className="quiet font-semibold">Channels</legend>
          {CHANNELS.map((c) => (
            <label key={c} className="flex items-center gap-1.5">
              <input type="checkbox" name="channels" value={c} defaultChecked /> {CHANNEL_NAME[c]}
            </label>
          ))}
        </fieldset>
      )}
      <label className="field">
        <span>On whose word</span>
        <input name="word" required maxLength={200} />
      </label>
    </Form>
  )
}

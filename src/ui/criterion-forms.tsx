'use client'

import { type ReactNode, useState } from 'react'
import { RELATIONS, SCREENED } from '@/core/columns/person-record'
import { type Criterion, CRITERIA, validCriterion } from '@/core/criteria/registry'
import type { CriterionLine, Line, StartLine } from '@/core/lists/line'

export interface Choices {
  batches: { id: number; name: string }[]
  towns: string[]
  me: { id: string; name: string }
}

interface FormProps<L> {
  line: L
  choices: Choices
  onChange: (line: Line) => void
  onDone: () => void
}

/** What a list starts with. */
export function StartForm({ line, choices, onChange, onDone }: FormProps<StartLine>) {
  return (
    <div className="grid gap-2">
      <label className="field">
        <span>Start with</span>
        <select
          autoFocus
          value={line.batch?.id ?? ''}
          onChange={(event) => {
            const batch = choices.batches.find((b) => String(b.id) === event.target.value) ?? null
            onChange({ ...line, batch })
            onDone()
          }}
        >
          <option value="">everyone in the directory</option>
          {choices.batches.map((batch) => (
            <option key={batch.id} value={batch.id}>
              everyone from {batch.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  )
}

/** The form behind a line's chips: each change counts at once when it is whole. */
export function CriterionForm({ line, choices, onChange, onDone }: FormProps<CriterionLine>) {
  const [draft, setDraft] = useState<Criterion>(line.criterion)
  const [told, setTold] = useState('')
  const done = (criterion: Criterion) => {
    try {
      onChange({ ...line, criterion: validCriterion(criterion) })
      onDone()
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        done(draft)
      }}
    >
      <b>{CRITERIA[line.criterion.kind].name}</b>
      <Fields draft={draft} setDraft={setDraft} choices={choices} />
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
      <button type="submit" className="button button-main justify-self-end">
        Done
      </button>
    </form>
  )
}

function Fields({ draft, setDraft, choices }: { draft: Criterion; setDraft: (next: Criterion) => void; choices: Choices }) {
  switch (draft.kind) {
    case 'role':
      return <WordsField label="Words or phrases of the role, one a line" hint="Any of them, in any wording: estate also finds Estates Manager." words={draft.any} onWords={(any) => setDraft({ ...draft, any })} />
    case 'place':
      return (
        <>
          <WordsField label="Towns, one a line" words={draft.towns} onWords={(towns) => setDraft({ ...draft, towns })} rows={3}>
            <span className="mt-1 flex flex-wrap gap-1">
              {choices.towns
                .filter((town) => !draft.towns.includes(town))
                .slice(0, 10)
                .map((town) => (
                  <button key={town} type="button" className="chip text-[12.5px]" onClick={() => setDraft({ ...draft, towns: [...draft.towns, town] })}>
                    {town}
                  </button>
                ))}
            </span>
          </WordsField>
          <WordsField label="Or postcodes that begin with, one a line" words={draft.postcodes} onWords={(postcodes) => setDraft({ ...draft, postcodes })} rows={2} />
        </>
      )
    case 'reach':
      return (
        <label className="field">
          <span>Has a usable</span>
          <select autoFocus value={draft.channel} onChange={(event) => setDraft({ ...draft, channel: event.target.value as typeof draft.channel })}>
            {SCREENED.map((channel) => (
              <option key={channel} value={channel}>
                {channel === 'email' ? 'e-mail address' : channel === 'phone' ? 'phone number' : 'postal address'}
              </option>
            ))}
          </select>
        </label>
      )
    case 'relation':
      return (
        <fieldset className="grid gap-1">
          <legend className="quiet mb-1 font-semibold">Relation to us is any of</legend>
          {RELATIONS.map((relation) => (
            <label key={relation} className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={draft.any.includes(relation)}
                onChange={(event) => setDraft({ ...draft, any: event.target.checked ? [...draft.any, relation] : draft.any.filter((r) => r !== relation) })}
              />
              {relation}
            </label>
          ))}
        </fieldset>
      )
    case 'contacted':
      return <ContactedFields draft={draft} setDraft={setDraft} me={choices.me} />
  }
}

function ContactedFields({ draft, setDraft, me }: { draft: Extract<Criterion, { kind: 'contacted' }>; setDraft: (next: Criterion) => void; me: Choices['me'] }) {
  const choose = (how: typeof draft.how) =>
    setDraft(how === 'never' ? { kind: 'contacted', how, by: draft.by } : how === 'within' ? { kind: 'contacted', how, days: draft.days ?? 30, by: draft.by } : { kind: 'contacted', how, date: draft.date ?? '', by: draft.by })
  return (
    <fieldset className="grid gap-2">
      <legend className="quiet mb-1 font-semibold">By e-mail, phone, post or direct message</legend>
      <label className="flex items-center gap-2">
        <input type="radio" name="how" checked={draft.how === 'never'} onChange={() => choose('never')} /> never contacted
      </label>
      <label className="flex items-center gap-2">
        <input type="radio" name="how" checked={draft.how === 'within'} onChange={() => choose('within')} /> contacted within
        <input
          type="number"
          min={1}
          max={3650}
          aria-label="Days"
          className="w-20"
          value={draft.how === 'within' ? (draft.days ?? '') : 30}
          onChange={(event) => setDraft({ kind: 'contacted', how: 'within', days: Number(event.target.value), by: draft.by })}
        />{' '}
        days
      </label>
      <label className="flex items-center gap-2">
        <input type="radio" name="how" checked={draft.how === 'before'} onChange={() => choose('before')} /> last contacted before
        <input type="date" aria-label="Date" value={draft.how === 'before' ? (draft.date ?? '') : ''} onChange={(event) => setDraft({ kind: 'contacted', how: 'before', date: event.target.value, by: draft.by })} />
      </label>
      <label className="field">
        <span>By</span>
        <select value={draft.by === null ? '' : draft.by.id} onChange={(event) => setDraft({ ...draft, by: event.target.value === '' ? null : event.target.value === me.id ? { id: me.id, name: me.name } : draft.by })}>
          <option value="">anyone</option>
          <option value={me.id}>me ({me.name})</option>
          {draft.by && draft.by.id !== me.id && <option value={draft.by.id}>{draft.by.name}</option>}
        </select>
      </label>
      <p className="quiet">Somebody never contacted answers no to the other two. To leave out those contacted lately and keep the rest, use a drop line.</p>
    </fieldset>
  )
}

function WordsField({ label, hint, words, onWords, rows = 4, children }: { label: string; hint?: string; words: string[]; onWords: (words: string[]) => void; rows?: number; children?: ReactNode }) {
  const [text, setText] = useState(words.join('\n'))
  const given = text.split('\n').map((word) => word.trim()).filter(Boolean)
  const shown = given.join('\n') === words.join('\n') ? text : words.join('\n')
  return (
    <div className="field">
      <label className="field">
        <span>{label}</span>
        <textarea
          rows={rows}
          value={shown}
          onChange={(event) => {
            setText(event.target.value)
            onWords(event.target.value.split('\n').map((word) => word.trim()).filter(Boolean))
          }}
        />
      </label>
      {hint && <p className="quiet">{hint}</p>}
      {children}
    </div>
  )
}

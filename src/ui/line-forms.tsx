'use client'

import { useState } from 'react'
import type { LimitLine, PickLine, StartLine } from '@/core/lists/line'
import { RANK_NOTE, RANKS } from '@/core/lists/rank'
import type { FormProps } from './criterion-forms'

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

/** How many, of what, and who comes first. */
export function LimitForm({ line, onChange, onDone }: FormProps<LimitLine>) {
  const [draft, setDraft] = useState(line)
  const [told, setTold] = useState('')
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (!Number.isInteger(draft.most) || draft.most < 1) return setTold('A limit is a whole number of 1 or more.')
        onChange(draft)
        onDone()
      }}
    >
      <div className="grid grid-cols-[90px_1fr] gap-2">
        <label className="field">
          <span>At most</span>
          <input type="number" min={1} autoFocus value={draft.most || ''} onChange={(e) => setDraft({ ...draft, most: Number(e.target.value) })} />
        </label>
        <label className="field">
          <span>Of</span>
          <select value={draft.per} onChange={(e) => setDraft({ ...draft, per: e.target.value as LimitLine['per'] })}>
            <option value="organisation">each organisation</option>
            <option value="all">all on the list</option>
          </select>
        </label>
      </div>
      <label className="field">
        <span>Who comes first</span>
        <select value={draft.rank} onChange={(e) => setDraft({ ...draft, rank: e.target.value as LimitLine['rank'] })}>
          {RANKS.map((rank) => (
            <option key={rank}>{rank}</option>
          ))}
        </select>
      </label>
      <p className="quiet">
        Ranked {RANK_NOTE[draft.rank]}; ties by who came into the directory first.{draft.per === 'organisation' && ' Whoever has no organisation is not limited, and the line tells how many.'}
      </p>
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

/** Why people were picked, and until when. */
export function PickForm({ line, onChange, onDone }: FormProps<PickLine>) {
  const [draft, setDraft] = useState(line)
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        onChange({ ...draft, reason: draft.reason.trim(), until: draft.until || null })
        onDone()
      }}
    >
      <b>
        {line.set.count.toLocaleString('en-GB')} picked {line.side} by {line.by}
      </b>
      <label className="field">
        <span>Reason</span>
        <input autoFocus maxLength={200} value={draft.reason} onChange={(e) => setDraft({ ...draft, reason: e.target.value })} />
      </label>
      <label className="field">
        <span>Until, if not for good</span>
        <input type="date" value={draft.until ?? ''} onChange={(e) => setDraft({ ...draft, until: e.target.value })} />
      </label>
      <button type="submit" className="button button-main justify-self-end">
        Done
      </button>
    </form>
  )
}

'use client'

import { CHANNEL_NAME, CHANNELS, type Way, WAYS } from '@/core/columns/person-record'
import type { Criterion } from '@/core/criteria/registry'
import type { Choices } from './criterion-forms'

/** Which ways of contact count: the four channels unless others are chosen. */
export function WaysField({ ways, onWays }: { ways: readonly Way[] | undefined; onWays: (ways: Way[] | undefined) => void }) {
  const chosen = ways ?? CHANNELS
  const set = (next: Way[]) => onWays(next.length === CHANNELS.length && CHANNELS.every((c) => next.includes(c)) ? undefined : next)
  return (
    <fieldset>
      <legend className="quiet mb-1 font-semibold">Which contacts count</legend>
      <span className="flex flex-wrap gap-x-3 gap-y-1">
        {WAYS.map((way) => (
          <label key={way} className="flex items-center gap-1.5">
            <input type="checkbox" checked={chosen.includes(way)} onChange={(e) => set(WAYS.filter((w) => (w === way ? e.target.checked : chosen.includes(w))))} /> {CHANNEL_NAME[way]}
          </label>
        ))}
      </span>
    </fieldset>
  )
}

/** When somebody was last contacted, by whom, and which contacts count. */
export function ContactedFields({ draft, setDraft, me }: { draft: Extract<Criterion, { kind: 'contacted' }>; setDraft: (next: Criterion) => void; me: Choices['me'] }) {
  const choose = (how: typeof draft.how) =>
    setDraft({ kind: 'contacted', how, by: draft.by, ...(draft.ways ? { ways: draft.ways } : {}), ...(how === 'within' ? { days: draft.days ?? 30 } : how === 'before' ? { date: draft.date ?? '' } : {}) })
  return (
    <fieldset className="grid gap-2">
      <legend className="quiet mb-1 font-semibold">When</legend>
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
          onChange={(event) => setDraft({ ...draft, how: 'within', days: Number(event.target.value), date: undefined })}
        />{' '}
        days
      </label>
      <label className="flex items-center gap-2">
        <input type="radio" name="how" checked={draft.how === 'before'} onChange={() => choose('before')} /> last contacted before
        <input type="date" aria-label="Date" value={draft.how === 'before' ? (draft.date ?? '') : ''} onChange={(event) => setDraft({ ...draft, how: 'before', date: event.target.value, days: undefined })} />
      </label>
      <label className="field">
        <span>By</span>
        <select value={draft.by === null ? '' : draft.by.id} onChange={(event) => setDraft({ ...draft, by: event.target.value === '' ? null : event.target.value === me.id ? { id: me.id, name: me.name } : draft.by })}>
          <option value="">anyone</option>
          <option value={me.id}>me ({me.name})</option>
          {draft.by && draft.by.id !== me.id && <option value={draft.by.id}>{draft.by.name}</option>}
        </select>
      </label>
      <WaysField
        ways={draft.ways}
        onWays={(ways) => {
          const { ways: _, ...rest } = draft
          setDraft(ways ? { ...rest, ways } : rest)
        }}
      />
      <p className="quiet">Somebody never contacted answers no to the other two. To leave out those contacted lately and keep the rest, use a drop line.</p>
    </fieldset>
  )
}

'use client'

import type { Criterion } from '@/core/criteria/registry'
import type { Choices } from './criterion-forms'

/** Which list is named, and which of its editions or rounds. */
export function NamedListFields({ draft, setDraft, lists }: { draft: Extract<Criterion, { kind: 'list' | 'round' }>; setDraft: (next: Criterion) => void; lists: Choices['lists'] }) {
  const list = lists.find((l) => l.id === draft.list.id)
  const offered = draft.kind === 'round' ? lists.filter((l) => l.rounds > 0) : lists
  return (
    <>
      <label className="field">
        <span>List</span>
        <select
          autoFocus
          value={draft.list.id || ''}
          onChange={(e) => {
            const chosen = lists.find((l) => l.id === Number(e.target.value))
            if (chosen) setDraft(draft.kind === 'list' ? { ...draft, list: { id: chosen.id, name: chosen.name }, edition: null } : { ...draft, list: { id: chosen.id, name: chosen.name }, which: 'any' })
          }}
        >
          <option value="" disabled>
            {offered.length === 0 ? (draft.kind === 'round' ? 'no list has had a round yet' : 'there is no other list') : 'choose a list'}
          </option>
          {offered.map((l) => (
            <option key={l.id} value={l.id}>
              {l.name}
              {l.shared ? '' : ' (private)'}
            </option>
          ))}
        </select>
      </label>
      {draft.kind === 'list' && list && (
        <label className="field">
          <span>As it is saved in</span>
          <select value={draft.edition ?? ''} onChange={(e) => setDraft({ ...draft, edition: e.target.value === '' ? null : Number(e.target.value) })}>
            <option value="">its latest edition, whichever that is</option>
            {Array.from({ length: list.edition }, (_, i) => list.edition - i).map((n) => (
              <option key={n} value={n}>
                edition {n}
              </option>
            ))}
          </select>
        </label>
      )}
      {draft.kind === 'round' && list && (
        <div className="grid grid-cols-2 gap-2">
          <label className="field">
            <span>Round</span>
            <select value={String(draft.which)} onChange={(e) => setDraft({ ...draft, which: e.target.value === 'any' || e.target.value === 'last' ? e.target.value : Number(e.target.value) })}>
              <option value="any">any round</option>
              <option value="last">the last round</option>
              {Array.from({ length: list.rounds }, (_, i) => list.rounds - i).map((n) => (
                <option key={n} value={n}>
                  round {n}
                </option>
              ))}
            </select>
          </label>
          <label className="field">
            <span>Where they stood</span>
            <select value={draft.stood} onChange={(e) => setDraft({ ...draft, stood: e.target.value as typeof draft.stood })}>
              <option value="listed">listed</option>
              <option value="clear">clear to contact</option>
              <option value="held back">held back</option>
            </select>
          </label>
        </div>
      )}
    </>
  )
}

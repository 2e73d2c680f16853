'use client'

import type { UnitOf } from '@/core/text/units'
import { Measures } from '@/ui/forms/measure'
import { type Subject, SUBJECT_NAMES, SUBJECTS } from '@/core/records/subject'
import type { Criterion } from '@/core/criteria/registry'
import { HOW, type How, HOWS } from '@/core/criteria/related'
import type { Choices } from './form-props'
import { WordsField } from './field-parts'
import { relatedTo } from './line-editing'

/** Which list is named, and which of its editions or rounds. */
export function NamedListFields({
  draft,
  setDraft,
  lists: all,
  subject,
}: {
  draft: Extract<Criterion, { kind: 'list' | 'round' }>
  setDraft: (next: Criterion) => void
  lists: Choices['lists']
  subject: Subject
}) {
  const lists = all.filter((l) => l.subject === subject)
  const list = lists.find((l) => l.id === draft.list.id)
  const offered = draft.kind === 'round' ? lists.filter((l) => l.rounds > 0 && l.subject === 'person') : lists
  return (
    <>
      <label className="field">
        <span>List</span>
        <select
          autoFocus
          value={draft.list.id || ''}
          onChange={(e) => {
            const chosen = lists.find((l) => l.id === Number(e.target.value))
            if (chosen)
              setDraft(
                draft.kind === 'list'
                  ? { ...draft, list: { id: chosen.id, name: chosen.name }, edition: null }
                  : { ...draft, list: { id: chosen.id, name: chosen.name }, which: 'any' },
              )
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
      {draft.kind === 'list' && !list && all.length > lists.length && (
        <button
          type="button"
          className="justify-self-start text-left text-[13px] font-semibold text-verdigris"
          onClick={() => setDraft(relatedTo(subject))}
        >
          Use a list of{' '}
          {SUBJECTS.filter((s) => s !== subject)
            .map((s) => SUBJECT_NAMES[s])
            .join(' or ')}{' '}
          instead
        </button>
      )}
      {draft.kind === 'list' && list && (
        <label className="field">
          <span>As it is saved in</span>
          <select
            value={draft.edition ?? ''}
            onChange={(e) => setDraft({ ...draft, edition: e.target.value === '' ? null : Number(e.target.value) })}
          >
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
            <select
              value={String(draft.which)}
              onChange={(e) =>
                setDraft({
                  ...draft,
                  which: e.target.value === 'any' || e.target.value === 'last' ? e.target.value : Number(e.target.value),
                })
              }
            >
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

/** Several lists, or one list of what this one's records stand to. */
export function OtherListFields({
  draft,
  setDraft,
  lists,
  subject,
}: {
  draft: Extract<Criterion, { kind: 'any-list' | 'related' }>
  setDraft: (next: Criterion) => void
  lists: Choices['lists']
  subject: Subject
}) {
  if (draft.kind === 'any-list') {
    const offered = lists.filter((l) => l.subject === subject)
    return (
      <fieldset className="grid gap-1">
        <legend className="quiet mb-1 font-semibold">On any of</legend>
        {offered.length === 0 && <p className="text-soft">There is no other list of this kind yet.</p>}
        {offered.map((l) => (
          <label key={l.id} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={draft.lists.some((c) => c.id === l.id)}
              onChange={(e) =>
                setDraft({
                  ...draft,
                  lists: e.target.checked ? [...draft.lists, { id: l.id, name: l.name }] : draft.lists.filter((c) => c.id !== l.id),
                })
              }
            />
            {l.name}
          </label>
        ))}
      </fieldset>
    )
  }
  const hows = HOWS.filter((how) => (HOW[how].asked as readonly Subject[]).includes(subject))
  const offered = lists.filter((l) => l.subject === HOW[draft.how].named)
  return (
    <>
      <label className="field">
        <span>How they are linked</span>
        <select
          autoFocus
          value={draft.how}
          onChange={(e) => {
            const how = e.target.value as How
            setDraft({
              ...draft,
              how,
              role: how === 'works at' ? draft.role : [],
              metres: how === 'neighbours' ? (draft.metres ?? 200) : null,
              list: HOW[how].named === HOW[draft.how].named ? draft.list : { id: 0, name: '' },
            })
          }}
        >
          {hows.map((how) => (
            <option key={how} value={how}>
              {HOW[how].text} a list
            </option>
          ))}
        </select>
      </label>
      <label className="field">
        <span>List of {SUBJECT_NAMES[HOW[draft.how].named]}</span>
        <select
          value={draft.list.id || ''}
          onChange={(e) => {
            const chosen = lists.find((l) => l.id === Number(e.target.value))
            if (chosen) setDraft({ ...draft, list: { id: chosen.id, name: chosen.name } })
          }}
        >
          <option value="" disabled>
            {offered.length === 0 ? `there is no list of ${SUBJECT_NAMES[HOW[draft.how].named]} yet` : 'choose a list'}
          </option>
          {offered.map((l) => (
            <option key={l.id} value={l.id}>
              {l.name}
            </option>
          ))}
        </select>
      </label>
      {draft.how === 'works at' && (
        <WordsField
          label="Only with a role that says, one a line"
          words={draft.role}
          onWords={(role) => setDraft({ ...draft, role })}
          rows={2}
        />
      )}
      {draft.how === 'neighbours' && (
        <span className="grid grid-cols-2 gap-2">
          <Measures
            quantity="m"
            unit={draft.unit}
            labels={{ metres: 'Within' }}
            values={{ metres: draft.metres }}
            onValues={({ metres }, unit) => setDraft({ ...draft, metres, unit: unit as UnitOf<'m'> })}
          />
        </span>
      )}
    </>
  )
}

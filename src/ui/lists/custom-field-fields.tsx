'use client'

import type { CustomField } from '@/core/clean/custom'
import type { CustomCriterion } from '@/core/criteria/custom'
import { Boxes, WordsField } from './field-parts'

/** Which field of the team's own is asked about, and what, by what it holds. */
export function CustomFields({
  draft,
  setDraft,
  customs,
}: {
  draft: CustomCriterion
  setDraft: (next: CustomCriterion) => void
  customs: CustomField[]
}) {
  const field = customs.find(({ id }) => id === draft.field.id)
  if (customs.length === 0) return <p className="text-soft">No custom fields yet. Add one while you map the columns of a file.</p>
  const end = (value: string) => value.trim() || null
  return (
    <>
      <label className="field">
        <span>Field</span>
        <select
          autoFocus
          value={draft.field.id || ''}
          onChange={(event) => {
            const next = customs.find(({ id }) => id === Number(event.target.value))
            if (next) setDraft({ kind: 'custom', field: { id: next.id, name: next.name, of: next.kind }, any: [], least: null, most: null })
          }}
        >
          <option value="" disabled>
            choose a field
          </option>
          {customs.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {draft.field.of === 'text' && draft.field.id !== 0 && (
        <WordsField
          label="Words or phrases, one a line"
          hint="Any of them, in any wording."
          words={draft.any}
          onWords={(any) => setDraft({ ...draft, any })}
        />
      )}
      {field?.kind === 'choice' && (
        <Boxes legend={`${field.name} is any of`} all={field.choices} chosen={draft.any} onChoose={(any) => setDraft({ ...draft, any })} />
      )}
      {draft.field.of === 'yes or no' && (
        <Boxes legend={`${draft.field.name} is`} all={['yes', 'no']} chosen={draft.any} onChoose={(any) => setDraft({ ...draft, any })} />
      )}
      {(draft.field.of === 'number' || draft.field.of === 'date') && (
        <div className="grid grid-cols-2 gap-2">
          <label className="field">
            <span>From</span>
            <input
              type={draft.field.of}
              step="any"
              value={draft.least ?? ''}
              onChange={(event) => setDraft({ ...draft, least: end(event.target.value) })}
            />
          </label>
          <label className="field">
            <span>To</span>
            <input
              type={draft.field.of}
              step="any"
              value={draft.most ?? ''}
              onChange={(event) => setDraft({ ...draft, most: end(event.target.value) })}
            />
          </label>
        </div>
      )}
    </>
  )
}

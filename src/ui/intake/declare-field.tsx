'use client'

import { useState, useTransition } from 'react'
import { CUSTOM_KINDS, type CustomField, type CustomKind } from '@/core/clean/custom'
import type { MappingActions } from './batch-actions'

/** Declares a field of the team's own, for a column that holds none of the usual ones. */
export function DeclareField({
  first,
  words,
  declare,
  onDone,
}: {
  first: string
  words: string[]
  declare: MappingActions['declare']
  onDone: (field: CustomField | null) => void
}) {
  const [name, setName] = useState(first)
  const [kind, setKind] = useState<CustomKind>(likelyKind(words))
  const [choices, setChoices] = useState(words.slice(0, 20).join('\n'))
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  return (
    <section className="my-2 grid gap-2 rounded-lg border border-rule p-2" aria-label="A new field">
      <label className="field">
        <span>Name of the field</span>
        <input autoFocus value={name} maxLength={60} onChange={(event) => setName(event.target.value)} />
      </label>
      <label className="field">
        <span>It holds</span>
        <select value={kind} onChange={(event) => setKind(event.target.value as CustomKind)}>
          {CUSTOM_KINDS.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </select>
      </label>
      {kind === 'choice' && (
        <label className="field">
          <span>What can be chosen, one a line</span>
          <textarea rows={4} value={choices} onChange={(event) => setChoices(event.target.value)} />
        </label>
      )}
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <button type="button" className="button" onClick={() => onDone(null)}>
          Leave it
        </button>
        <button
          type="button"
          className="button button-main"
          disabled={busy || name.trim() === ''}
          onClick={() =>
            begin(async () => {
              const result = await declare({ name, kind, choices: choices.split('\n') })
              if (result.ok) onDone(result.value)
              else setTold(result.error)
            })
          }
        >
          Declare it
        </button>
      </div>
      <p className="quiet">Everybody on the team can then ask about it in lists.</p>
    </section>
  )
}

/** What a column most likely holds, by the words that stand in it. */
function likelyKind(words: string[]): CustomKind {
  const all = (looks: RegExp) => words.length > 0 && words.every((word) => looks.test(word.trim()))
  if (all(/^(y|n|yes|no|true|false|0|1|x)$/i)) return 'yes or no'
  if (all(/^-?[\d\s.,']+$/)) return 'number'
  if (all(/^\d{4}-\d\d-\d\d|^\d{1,2}[./ ]\w{1,9}[./ ]\d{4}$/)) return 'date'
  return words.length > 1 && words.length <= 8 ? 'choice' : 'text'
}

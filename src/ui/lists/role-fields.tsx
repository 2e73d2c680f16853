'use client'

import { useState } from 'react'
import type { CriterionOf } from '@/core/criteria/registry'
import type { RoleWording } from '@/core/views/list-views'
import { ask, Told } from '@/ui/book/ask'
import { WordsField } from './field-parts'

/** Words of the role, those that rule it out, and the wordings the team keeps. */
export function RoleFields({
  draft,
  setDraft,
  wordings,
}: {
  draft: CriterionOf<'role'>
  setDraft: (next: CriterionOf<'role'>) => void
  wordings: RoleWording[]
}) {
  const [kept, setKept] = useState<RoleWording[]>([])
  const [name, setName] = useState('')
  const [told, setTold] = useState('')
  const all = [...wordings.filter((w) => !kept.some((k) => k.id === w.id)), ...kept].sort((a, b) => (a.name < b.name ? -1 : 1))
  const words = (part: Partial<CriterionOf<'role'>>) => {
    const { named: _, ...rest } = draft
    setDraft({ ...rest, ...part })
  }
  const own = draft.named && all.find((w) => w.id === draft.named?.id)
  const changed = own && (own.says.join() !== draft.any.join() || own.butNot.join() !== (draft.not ?? []).join())
  const keep = async () => {
    try {
      const made = await ask<RoleWording>('/api/role-wordings', { name, says: draft.any, butNot: draft.not ?? [] })
      setKept([...kept.filter((k) => k.id !== made.id), made])
      setDraft({ ...draft, named: { id: made.id, name: made.name } })
      setTold(`Kept as “${made.name}”, for everybody of the team.`)
    } catch (error) {
      setTold(error instanceof Told ? error.message : 'It could not be kept.')
    }
  }
  return (
    <>
      {all.length > 0 && (
        <label className="field">
          <span>A wording of the team’s</span>
          <select
            value={draft.named?.id ?? ''}
            onChange={(e) => {
              const chosen = all.find((w) => w.id === Number(e.target.value))
              if (chosen) setDraft({ kind: 'role', any: chosen.says, not: chosen.butNot, named: { id: chosen.id, name: chosen.name } })
            }}
          >
            <option value="">none: words of my own</option>
            {all.map((w) => (
              <option key={w.id} value={w.id}>
                {w.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {changed && (
        <p className="quiet">
          “{own.name}” was changed since.{' '}
          <button
            type="button"
            className="font-semibold text-verdigris"
            onClick={() => setDraft({ ...draft, any: own.says, not: own.butNot })}
          >
            Take its words of today
          </button>
        </p>
      )}
      <WordsField
        label="Words or phrases of the role, one a line"
        hint="Any of them, in any wording: estate also finds Estates Manager."
        first
        words={draft.any}
        onWords={(any) => words({ any })}
      />
      <WordsField
        label="But not"
        words={draft.not ?? []}
        onWords={(not) => words(not.length > 0 ? { not } : { not: undefined })}
        rows={2}
      />
      {draft.any.length > 0 && (
        <span className="flex items-end gap-2">
          <label className="field grow">
            <span>Keep these words for the team as</span>
            <input value={name} maxLength={120} placeholder="head of estates" onChange={(e) => setName(e.target.value)} />
          </label>
          <button type="button" className="button" disabled={name.trim() === ''} onClick={keep}>
            Save
          </button>
        </span>
      )}
      {told && (
        <p role="status" className="quiet">
          {told}
        </p>
      )}
    </>
  )
}

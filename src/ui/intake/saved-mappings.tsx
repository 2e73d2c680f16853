'use client'

import { useState, useTransition } from 'react'
import type { MappingProfile, ProfileApplied } from '@/core/views/intake-views'
import { ask, Told } from '@/ui/book/ask'
import { useAsked } from '@/ui/book/asking'
import type { MappingActions } from './batch-actions'
import { day } from '@/ui/book/figures'
import type { Mapped } from './mapping-columns'

/** Mappings the team saved: one is taken for this file, or this file's is saved under a name. */
export function SavedMappings({
  batch,
  how,
  onHow,
  actions,
  onTold,
}: {
  batch: number
  how: Mapped
  onHow: (how: Mapped) => void
  actions: Pick<MappingActions, 'saveMapping' | 'dropMapping'>
  onTold: (told: string | null) => void
}) {
  const { answer: all = [], again: refresh } = useAsked<MappingProfile[]>(['/api/mappings'])
  const [name, setName] = useState('')
  const [said, setSaid] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const take = (profile: MappingProfile) =>
    ask<ProfileApplied>(`/api/mappings?batch=${batch}&profile=${profile.id}`).then(
      ({ kind, mapping, shaping, missing }) => {
        onHow({ kind, mapping, shaping })
        setSaid(
          missing.length === 0
            ? `${profile.name} fits: every column was found.`
            : `${profile.name} was taken; this file has no ${missing.join(', ')}.`,
        )
      },
      (error) => onTold(error instanceof Told ? error.message : 'The mapping could not be taken.'),
    )
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-semibold text-verdigris">Saved mappings{all.length > 0 ? `: ${all.length}` : ''}</summary>
      <div className="mt-2 grid gap-2 rounded-lg border border-rule p-3">
        {all.map((profile) => (
          <div key={profile.id} className="flex items-center justify-between gap-2">
            <span className="min-w-0 break-words">
              {profile.name}
              <span className="quiet block">
                {profile.kind} · {day(profile.at)} by {profile.by}
              </span>
            </span>
            <span className="flex gap-1">
              <button type="button" className="button px-2! py-0.5!" onClick={() => void take(profile)} aria-label={`Take ${profile.name}`}>
                Take it
              </button>
              <button
                type="button"
                className="button px-2! py-0.5!"
                disabled={busy}
                aria-label={`Forget ${profile.name}`}
                onClick={() =>
                  begin(async () => {
                    const result = await actions.dropMapping(profile.id)
                    onTold(result.ok ? null : result.error)
                    await refresh()
                  })
                }
              >
                Forget
              </button>
            </span>
          </div>
        ))}
        {said && (
          <p role="status" className="said">
            {said}
          </p>
        )}
        <div className="flex items-end gap-2">
          <label className="field grow">
            <span>Save this mapping for the team as</span>
            <input value={name} maxLength={80} onChange={(event) => setName(event.target.value)} />
          </label>
          <button
            type="button"
            className="button"
            disabled={busy || name.trim() === ''}
            onClick={() =>
              begin(async () => {
                const result = await actions.saveMapping(batch, how, name)
                onTold(result.ok ? null : result.error)
                if (!result.ok) return
                setSaid(`${name.trim()} is saved.`)
                setName('')
                await refresh()
              })
            }
          >
            Save
          </button>
        </div>
        <p className="quiet">
          A mapping is recognised by its column headings, in any order. Columns you mapped before are mapped the same way without it.
        </p>
      </div>
    </details>
  )
}

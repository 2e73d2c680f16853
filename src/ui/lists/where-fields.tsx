'use client'

import type { UnitOf } from '@/core/text/units'
import { Measures } from '@/ui/forms/measure'
import dynamic from 'next/dynamic'
import { useState } from 'react'
import type { Criterion, CriterionOf } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'
import { useAnswer } from '@/ui/book/use-answer'
import type { Choices } from './form-props'
import { StreetFields } from './street-fields'

/** The map is large and loads when it is wanted. */
const AreaDialog = dynamic(() => import('./area-dialog').then((m) => m.AreaDialog), { ssr: false })

/** Forms of the criteria that ask where: streets, areas, the distance from a point. */
export function WhereFields({
  draft,
  setDraft,
  choices,
  before,
}: {
  draft: CriterionOf<'street'> | CriterionOf<'area'> | CriterionOf<'near'>
  setDraft: (next: Criterion) => void
  choices: Choices
  before: Line[]
}) {
  switch (draft.kind) {
    case 'street':
      return <StreetFields first streets={draft.streets} onStreets={(streets) => setDraft({ ...draft, streets })} lines={before} />
    case 'area':
      return <AreaFields draft={draft} setDraft={setDraft} choices={choices} before={before} />
    case 'near':
      return (
        <>
          <span className="grid grid-cols-2 gap-2">
            <Measures
              quantity="m"
              unit={draft.unit}
              labels={{ metres: 'Within' }}
              values={{ metres: draft.metres || null }}
              onValues={({ metres }, unit) => setDraft({ ...draft, metres: metres ?? 0, unit: unit as UnitOf<'m'> })}
            />
          </span>
          <span className="grid grid-cols-2 gap-2">
            <label className="field">
              <span>Latitude</span>
              <input
                type="number"
                step="any"
                value={draft.lat || ''}
                onChange={(e) => setDraft({ ...draft, lat: Number(e.target.value) })}
              />
            </label>
            <label className="field">
              <span>Longitude</span>
              <input
                type="number"
                step="any"
                value={draft.lon || ''}
                onChange={(e) => setDraft({ ...draft, lon: Number(e.target.value) })}
              />
            </label>
          </span>
          <PremisesPoint onPoint={(point) => setDraft({ ...draft, ...point })} />
          <label className="field">
            <span>What lies there, in words</span>
            <input maxLength={200} value={draft.name} onChange={(e) => setDraft({ ...draft, name: e.target.value })} />
          </label>
        </>
      )
  }
}

/** A point taken from premises that are found by their name or address. */
function PremisesPoint({ onPoint }: { onPoint: (point: { lat: number; lon: number; name: string }) => void }) {
  const [typed, setTyped] = useState('')
  const answer = useAnswer<{ premises: { id: number; name: string; postal: string; position: { lat: number; lon: number } | null }[] }>(
    '/api/premises',
    typed.trim().length < 2 ? null : { find: typed, sort: 'name', offset: 0 },
    150,
  )
  const found = answer?.premises.filter((p) => p.position).slice(0, 5) ?? []
  return (
    <div className="field">
      <label className="field">
        <span>Or from premises: type their name or address</span>
        <input value={typed} onChange={(e) => setTyped(e.target.value)} />
      </label>
      {found.map((p) => (
        <button
          key={p.id}
          type="button"
          className="menu-item w-full text-left"
          onClick={() => p.position && onPoint({ ...p.position, name: p.name })}
        >
          <span className="font-semibold">{p.name}</span> <span className="quiet">{p.postal}</span>
        </button>
      ))}
    </div>
  )
}

function AreaFields({
  draft,
  setDraft,
  choices,
  before,
}: {
  draft: CriterionOf<'area'>
  setDraft: (next: Criterion) => void
  choices: Choices
  before: Line[]
}) {
  const [drawing, setDrawing] = useState(false)
  const offered = [...choices.areas, ...draft.areas.filter((a) => !choices.areas.some((c) => c.id === a.id))]
  return (
    <fieldset className="grid gap-1">
      <legend className="quiet mb-1 font-semibold">In any of these areas</legend>
      {offered.map(({ id, name }) => (
        <label key={id} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={draft.areas.some((a) => a.id === id)}
            onChange={(e) =>
              setDraft({ ...draft, areas: e.target.checked ? [...draft.areas, { id, name }] : draft.areas.filter((a) => a.id !== id) })
            }
          />
          {name}
        </label>
      ))}
      <button type="button" className="button mt-1 justify-self-start" onClick={() => setDrawing(true)}>
        Draw one on the map
      </button>
      {drawing && (
        <AreaDialog
          lines={before}
          onClose={() => setDrawing(false)}
          onKept={(area) => {
            setDrawing(false)
            setDraft({ ...draft, areas: [...draft.areas, area] })
          }}
        />
      )}
    </fieldset>
  )
}

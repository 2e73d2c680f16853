'use client'

import type { UnitOf } from '@/core/text/units'
import { Measures } from '@/ui/forms/measure'
import dynamic from 'next/dynamic'
import { useEffect, useState } from 'react'
import type { StreetRange } from '@/core/areas/shape'
import type { Criterion, CriterionOf } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'
import { ask } from '@/ui/book/ask'
import type { Choices } from './form-props'
import { count } from '@/ui/book/figures'

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
  const [found, setFound] = useState<{ id: number; name: string; postal: string; position: { lat: number; lon: number } | null }[]>([])
  useEffect(() => {
    if (typed.trim().length < 2) return setFound([])
    const abort = new AbortController()
    const timer = setTimeout(
      () =>
        ask<{ premises: typeof found }>('/api/premises', { find: typed, sort: 'name', offset: 0 }, abort.signal).then(
          ({ premises }) => setFound(premises.filter((p) => p.position).slice(0, 5)),
          () => {},
        ),
      150,
    )
    return () => {
      clearTimeout(timer)
      abort.abort()
    }
  }, [typed])
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

/** Streets, each with its house numbers. One that nobody is on says so at once and offers the likeliest spelling. */
export function StreetFields({
  streets,
  onStreets,
  lines,
  first,
}: {
  /** Takes the focus as its form opens. */ first?: true
  streets: StreetRange[]
  onStreets: (streets: StreetRange[]) => void
  lines: Line[]
}) {
  const rows = [...streets, { street: '', from: null, to: null, side: 'both' } as StreetRange]
  const set = (i: number, part: Partial<StreetRange>) =>
    onStreets(rows.map((row, j) => (i === j ? { ...row, ...part } : row)).filter((row) => row.street.trim() !== ''))
  const number = (text: string) => (text === '' ? null : Number(text))
  return (
    <fieldset className="grid gap-2">
      <legend className="quiet mb-1 font-semibold">Streets and house numbers</legend>
      {rows.map((row, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a street being typed is known by its place
        <div key={i} className="grid grid-cols-[1fr_62px_62px_74px] items-end gap-1.5">
          <label className="field">
            <span>{i === streets.length ? 'Another street' : 'Street'}</span>
            <input autoFocus={first && i === 0} value={row.street} onChange={(e) => set(i, { street: e.target.value })} />
          </label>
          <label className="field">
            <span>From</span>
            <input
              type="number"
              min={0}
              disabled={row.street === ''}
              value={row.from ?? ''}
              onChange={(e) => set(i, { from: number(e.target.value) })}
            />
          </label>
          <label className="field">
            <span>To</span>
            <input
              type="number"
              min={0}
              disabled={row.street === ''}
              value={row.to ?? ''}
              onChange={(e) => set(i, { to: number(e.target.value) })}
            />
          </label>
          <label className="field">
            <span>Side</span>
            <select disabled={row.street === ''} value={row.side} onChange={(e) => set(i, { side: e.target.value as StreetRange['side'] })}>
              <option>both</option>
              <option>odd</option>
              <option>even</option>
            </select>
          </label>
          {row.street.trim().length > 1 && <StreetSaid typed={row.street} lines={lines} onTake={(street) => set(i, { street })} />}
        </div>
      ))}
    </fieldset>
  )
}

function StreetSaid({ typed, lines, onTake }: { typed: string; lines: Line[]; onTake: (street: string) => void }) {
  const [said, setSaid] = useState<{ of: string; exact: number; likely: { street: string; count: number }[] } | null>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: of the lines only what they are of matters
  useEffect(() => {
    const abort = new AbortController()
    const timer = setTimeout(
      () =>
        ask<{ exact: number; likely: { street: string; count: number }[] }>('/api/streets', { typed, lines }, abort.signal).then(
          (answer) => setSaid({ of: typed, ...answer }),
          () => {},
        ),
      150,
    )
    return () => {
      clearTimeout(timer)
      abort.abort()
    }
  }, [typed])
  if (said?.of !== typed) return <p className="quiet col-span-4">…</p>
  if (said.exact > 0) return <p className="quiet col-span-4">{count(said.exact)} on this street</p>
  return (
    <p role="status" className="col-span-4 text-[13px] text-ochre">
      Nobody is on a street of this name.{' '}
      {said.likely.slice(0, 3).map(({ street, count: on }) => (
        <button key={street} type="button" className="chip mr-1 text-[12.5px]" onClick={() => onTake(street)}>
          {street} ({count(on)})
        </button>
      ))}
    </p>
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

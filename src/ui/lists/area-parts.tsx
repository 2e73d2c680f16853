'use client'

import { X } from 'lucide-react'
import { useState } from 'react'
import type { AreaShape, Ring } from '@/core/areas/shape'
import type { Line } from '@/core/lists/line'
import { StreetFields } from './street-fields'

/** The parts of an area as they can be typed: corners, a centre and a length, streets. */
export function AreaParts({ shape, onShape, lines }: { shape: AreaShape; onShape: (shape: AreaShape) => void; lines: Line[] }) {
  const polygons = (next: AreaShape['polygons']) => onShape({ ...shape, polygons: next })
  const circles = (next: AreaShape['circles']) => onShape({ ...shape, circles: next })
  return (
    <div className="grid gap-3">
      {shape.polygons.map((rings, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a part of an area is known by its place
        <fieldset key={`polygon ${i + 1}`} className="grid gap-1.5">
          <Legend
            text={`Polygon ${i + 1}, ${rings[0].length} corners${rings.length > 1 ? `, ${rings.length - 1} ${rings.length === 2 ? 'hole' : 'holes'}` : ''}`}
            onRemove={() => polygons(shape.polygons.filter((_, j) => j !== i))}
          />
          {rings.map((ring, r) => (
            <Corners
              // biome-ignore lint/suspicious/noArrayIndexKey: a ring is known by its place
              key={`ring ${r + 1}`}
              label={r === 0 ? `Corners of polygon ${i + 1}: latitude and longitude, one a line` : `Hole ${r}`}
              ring={ring}
              onRing={(next) => polygons(shape.polygons.map((own, j) => (j === i ? own.map((other, k) => (k === r ? next : other)) : own)))}
            />
          ))}
        </fieldset>
      ))}
      {shape.circles.map((circle, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a part of an area is known by its place
        <fieldset key={`circle ${i + 1}`} className="grid gap-1.5">
          <Legend text={`Circle ${i + 1}`} onRemove={() => circles(shape.circles.filter((_, j) => j !== i))} />
          <span className="grid grid-cols-3 gap-1.5">
            {(['lat', 'lon', 'metres'] as const).map((part) => (
              <label key={part} className="field">
                <span>{part === 'lat' ? 'Latitude' : part === 'lon' ? 'Longitude' : 'Metres'}</span>
                <input
                  type="number"
                  step="any"
                  value={circle[part]}
                  onChange={(e) => circles(shape.circles.map((own, j) => (j === i ? { ...own, [part]: Number(e.target.value) } : own)))}
                />
              </label>
            ))}
          </span>
        </fieldset>
      ))}
      <span className="flex flex-wrap gap-2">
        <button
          type="button"
          className="button"
          onClick={() =>
            polygons([
              ...shape.polygons,
              [
                [
                  [1.2, 55.2],
                  [1.25, 55.2],
                  [1.25, 55.23],
                ],
              ],
            ])
          }
        >
          Type a polygon
        </button>
        <button type="button" className="button" onClick={() => circles([...shape.circles, { lat: 55.215, lon: 1.225, metres: 1000 }])}>
          Type a circle
        </button>
      </span>
      <StreetFields streets={shape.streets} onStreets={(streets) => onShape({ ...shape, streets })} lines={lines} />
    </div>
  )
}

function Legend({ text, onRemove }: { text: string; onRemove: () => void }) {
  return (
    <legend className="quiet flex w-full items-center gap-2 font-semibold">
      {text}
      <button
        type="button"
        className="inline-grid size-6 place-items-center rounded text-soft hover:text-madder"
        aria-label={`Take away ${text.toLowerCase()}`}
        onClick={onRemove}
      >
        <X size={14} aria-hidden="true" />
      </button>
    </legend>
  )
}

/** Corners as lines of two numbers. What is not whole yet stays in the field and changes nothing. */
function Corners({ label, ring, onRing }: { label: string; ring: Ring; onRing: (ring: Ring) => void }) {
  const text = ring.map(([lon, lat]) => `${lat} ${lon}`).join('\n')
  const [typed, setTyped] = useState(text)
  const read = (of: string) =>
    of
      .split('\n')
      .filter((line) => line.trim())
      .map((line) => {
        const [lat, lon, ...more] = line
          .trim()
          .split(/[\s,;]+/)
          .map(Number)
        return [lon, lat, ...more] as [number, number]
      })
  const own = read(typed)
  const shown = JSON.stringify(own) === JSON.stringify(ring) ? typed : text
  return (
    <label className="field">
      <span>{label}</span>
      <textarea
        rows={Math.min(6, ring.length + 1)}
        className="tabular-nums"
        value={shown}
        onChange={(e) => {
          setTyped(e.target.value)
          const corners = read(e.target.value)
          if (corners.length >= 3 && corners.every((c) => c.length === 2 && c.every(Number.isFinite))) onRing(corners)
        }}
      />
    </label>
  )
}

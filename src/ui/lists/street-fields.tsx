'use client'

import type { StreetRange } from '@/core/areas/shape'
import type { Line } from '@/core/lists/line'
import { count } from '@/ui/book/figures'
import { useAnswer } from '@/ui/book/use-answer'

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
  const said = useAnswer<{ exact: number; likely: { street: string; count: number }[] }>('/api/streets', { typed, lines }, 150)
  if (said === null) return <p className="quiet col-span-4">…</p>
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

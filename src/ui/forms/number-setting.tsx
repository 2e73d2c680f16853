'use client'

import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'

/** A number the team sets, in a sentence. */
export function NumberSetting({
  before,
  after,
  value: set,
  min,
  max,
  keep,
}: {
  before: string
  after: string
  value: number
  min: number
  max: number
  keep: (value: number) => Promise<ActionResult<unknown>>
}) {
  const [value, setValue] = useState(String(set))
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  return (
    <form
      className="mt-6 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        begin(async () => {
          const result = await keep(Number(value))
          setTold(result.ok ? 'Saved.' : result.error)
        })
      }}
    >
      <label className="flex flex-wrap items-center gap-2">
        {before}
        <input
          className="w-20"
          type="number"
          min={min}
          max={max}
          required
          value={value}
          onChange={(event) => setValue(event.target.value)}
        />
        {after}
      </label>
      <button type="submit" className="button" disabled={busy || value === String(set)}>
        Save
      </button>
      <span role="status" className="quiet">
        {told}
      </span>
    </form>
  )
}

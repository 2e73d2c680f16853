'use client'

import { useState } from 'react'

/** The labels a list is filed under; its owner may change them. */
export function Labels({ labels, mine, onLabels }: { labels: string[]; mine: boolean; onLabels: (labels: string[]) => void }) {
  const [text, setText] = useState<string | null>(null)
  if (text !== null) {
    return (
      <form
        className="my-1 flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          setText(null)
          onLabels(
            text
              .split(',')
              .map((label) => label.trim())
              .filter(Boolean),
          )
        }}
      >
        <input
          autoFocus
          aria-label="Labels, separated by commas"
          className="w-[260px]"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <button type="submit" className="button">
          Save
        </button>
      </form>
    )
  }
  if (labels.length === 0 && !mine) return null
  return (
    <span className="mt-0.5 flex flex-wrap items-center gap-1.5">
      {labels.map((label) => (
        <span key={label} className="rounded bg-page px-1.5 text-[12px] text-soft">
          {label}
        </span>
      ))}
      {mine && (
        <button type="button" className="min-h-6 text-[12px] font-semibold text-verdigris" onClick={() => setText(labels.join(', '))}>
          {labels.length === 0 ? 'Add label' : 'Change labels'}
        </button>
      )}
    </span>
  )
}

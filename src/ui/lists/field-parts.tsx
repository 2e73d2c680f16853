'use client'

import { type ReactNode, useState } from 'react'
import { count } from '@/ui/book/figures'

/** Any of several values, in their own order, each with how many have it where that is known. */
export function Boxes<T extends string>({
  legend,
  hint,
  all,
  chosen,
  onChoose,
  counts = null,
}: {
  legend: string
  hint?: string
  all: readonly T[]
  chosen: T[]
  onChoose: (chosen: T[]) => void
  counts?: Map<string, number> | null
}) {
  return (
    <fieldset className="grid gap-1">
      <legend className="quiet mb-1 font-semibold">{legend}</legend>
      {all.map((value, i) => (
        <label key={value} className="flex items-center gap-2">
          <input
            type="checkbox"
            autoFocus={i === 0}
            checked={chosen.includes(value)}
            onChange={(event) => onChoose(all.filter((other) => (other === value ? event.target.checked : chosen.includes(other))))}
          />
          <span className="grow">{value}</span>
          {counts && <Count of={counts.get(value) ?? 0} />}
        </label>
      ))}
      {hint && <p className="quiet mt-1">{hint}</p>}
    </fieldset>
  )
}

/** How many have a value, to be seen beside its name and no part of it. */
function Count({ of }: { of: number }) {
  return (
    <span
      aria-hidden="true"
      data-count={count(of)}
      className="ml-1 text-[12.5px] text-soft tabular-nums after:content-[attr(data-count)]"
    />
  )
}

/** Words that stand in the directory and are not chosen yet, to choose with one press. */
export function Known({
  words,
  chosen,
  onChoose,
  counts = null,
}: {
  words: string[]
  chosen: string[]
  onChoose: (word: string) => void
  counts?: Map<string, number> | null
}) {
  return words
    .filter((word) => !chosen.includes(word))
    .slice(0, 12)
    .map((word) => (
      <button key={word} type="button" className="chip text-[12.5px]" onClick={() => onChoose(word)}>
        {word}
        {counts?.has(word) && <Count of={counts.get(word) ?? 0} />}
      </button>
    ))
}

/** A field for words, one a line. */
export function WordsField({
  label,
  hint,
  words,
  onWords,
  rows = 4,
  first,
  children,
}: {
  label: string
  hint?: string
  words: string[]
  onWords: (words: string[]) => void
  rows?: number /** Takes the focus as its form opens. */
  first?: true
  children?: ReactNode
}) {
  const [text, setText] = useState(words.join('\n'))
  const given = text
    .split('\n')
    .map((word) => word.trim())
    .filter(Boolean)
  const shown = given.join('\n') === words.join('\n') ? text : words.join('\n')
  return (
    <div className="field">
      <label className="field">
        <span>{label}</span>
        <textarea
          rows={rows}
          autoFocus={first}
          value={shown}
          onChange={(event) => {
            setText(event.target.value)
            onWords(
              event.target.value
                .split('\n')
                .map((word) => word.trim())
                .filter(Boolean),
            )
          }}
        />
      </label>
      {hint && <p className="quiet">{hint}</p>}
      {children}
    </div>
  )
}

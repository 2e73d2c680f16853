'use client'

import { useState } from 'react'
import { customKey } from '@/core/clean/custom'
import { FIELDS } from '@/core/match/columns'
import type { HowMapped } from '@/core/match/how-mapped'
import { CUTS, type MadeColumn, MOST_PARTS, type Shaping } from '@/core/match/shaping'
import type { BatchPreview } from '@/core/views/intake-views'
import type { MappingActions } from './batch-actions'
import { DeclareField } from './declare-field'

/** By what a column was taken to hold what it holds, the surest first. */
const GUESSED = {
  title: 'by its title',
  'nearly its title': 'nearly by its title; look at it',
  values: 'by what stands in it; look at it',
} as const

const CUT_NAME: Record<string, string> = {
  ' ': 'blanks',
  ',': 'commas',
  ';': 'semicolons',
  '/': 'slashes',
  '|': 'upright bars',
  '-': 'hyphens',
  '\n': 'line breaks',
}

export interface Mapped extends HowMapped {
  shaping: Shaping
}

/** The columns of a file and those made of them, with what each holds. */
export function MappingColumns({
  preview,
  how,
  onHow,
  declare,
}: {
  preview: BatchPreview
  how: Mapped
  onHow: (how: Mapped) => void
  declare: MappingActions['declare']
}) {
  const { header, customs } = preview
  const width = preview.batch.header.length
  const [declaring, setDeclaring] = useState<number | null>(null)
  const put = (column: number, field: string | null) =>
    onHow({ ...how, mapping: how.mapping.map((other, i) => (i === column ? field : other)) })
  const make = (columns: MadeColumn[], mapping = how.mapping) =>
    onHow({
      ...how,
      mapping: [...mapping, ...columns.map(() => null)],
      shaping: { ...how.shaping, made: [...(how.shaping.made ?? []), ...columns] },
    })
  const unmake = (column: number) => {
    const words = Object.entries(how.shaping.words ?? {}).flatMap(([at, pairs]) =>
      Number(at) === column ? [] : [[Number(at) > column ? Number(at) - 1 : Number(at), pairs]],
    )
    onHow({
      ...how,
      mapping: how.mapping.filter((_, i) => i !== column),
      shaping: { made: (how.shaping.made ?? []).filter((_, m) => width + m !== column), words: Object.fromEntries(words) },
    })
  }
  return (
    <>
      <table className="account mt-4" aria-label="Columns of the file">
        <thead>
          <tr>
            <th scope="col">Column of the file</th>
            <th scope="col">Holds</th>
          </tr>
        </thead>
        <tbody>
          {header.map((title, i) => {
            const name = title || `Column ${i + 1}`
            const example = preview.rows.map((row) => row.shaped[i]).find((cell) => cell?.trim()) ?? ''
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: columns have no other identity; two may share a title
              <tr key={i}>
                <td className="break-words">
                  {title || <span className="text-soft">column {i + 1}, without a title</span>}
                  <span className="quiet block">{example.length > 90 ? `${example.slice(0, 90)}…` : example}</span>
                </td>
                <td>
                  <select
                    aria-label={`${name} holds`}
                    value={how.mapping[i] ?? ''}
                    onChange={(event) => (event.target.value === 'declare' ? setDeclaring(i) : put(i, event.target.value || null))}
                  >
                    <option value="">not used, kept with the row</option>
                    {FIELDS[how.kind].map(([field, label]) => (
                      <option key={field} value={field}>
                        {label}
                      </option>
                    ))}
                    {how.kind === 'people' && (
                      <optgroup label="Fields of our own">
                        {customs.map((field) => (
                          <option key={field.id} value={customKey(field.id)}>
                            {field.name}
                          </option>
                        ))}
                        <option value="declare">a new field…</option>
                      </optgroup>
                    )}
                  </select>
                  {declaring === i && (
                    <DeclareField
                      first={title}
                      words={preview.words[i]}
                      declare={declare}
                      onDone={(field) => {
                        setDeclaring(null)
                        if (field) put(i, customKey(field.id))
                      }}
                    />
                  )}
                  <div className="flex flex-wrap items-baseline gap-x-3">
                    {preview.guesses[i] && preview.guesses[i]?.field === how.mapping[i] && (
                      <span className="quiet">{GUESSED[preview.guesses[i].by]}</span>
                    )}
                    {i < width && (
                      <Cut
                        name={name}
                        onCut={(at, parts) =>
                          make(
                            Array.from(
                              { length: parts },
                              (_, p): MadeColumn => ({ is: 'part', of: i, at, part: p + 1, last: p === parts - 1 }),
                            ),
                            how.mapping.map((field, j) => (j === i ? null : field)),
                          )
                        }
                      />
                    )}
                    {how.mapping[i] !== null && preview.words[i].length > 0 && (
                      <Words
                        name={name}
                        words={preview.words[i]}
                        pairs={how.shaping.words?.[i] ?? []}
                        onPairs={(pairs) => onHow({ ...how, shaping: { ...how.shaping, words: { ...how.shaping.words, [i]: pairs } } })}
                      />
                    )}
                    {i >= width && (
                      <button
                        type="button"
                        className="text-[0.8125rem] text-verdigris"
                        onClick={() => unmake(i)}
                        aria-label={`Take away ${name}`}
                      >
                        take it away
                      </button>
                    )}
                  </div>
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <MakeColumn header={preview.batch.header} onMake={(column) => make([column])} />
    </>
  )
}

const summary = 'cursor-pointer py-0.5 text-[0.8125rem] text-verdigris'

function Cut({ name, onCut }: { name: string; onCut: (at: string, parts: number) => void }) {
  const [at, setAt] = useState<string>(CUTS[0])
  const [parts, setParts] = useState(2)
  return (
    <details>
      <summary className={summary}>cut it</summary>
      <div className="my-1 grid gap-2 rounded-lg border border-rule p-2">
        <label className="field">
          <span>At</span>
          <select value={at} onChange={(event) => setAt(event.target.value)} aria-label={`Cut ${name} at`}>
            {CUTS.map((mark) => (
              <option key={mark} value={mark}>
                {CUT_NAME[mark]}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>Into so many columns, the last with the rest</span>
          <input
            type="number"
            min={2}
            max={MOST_PARTS}
            value={parts}
            onChange={(event) => setParts(Math.min(MOST_PARTS, Math.max(2, Number(event.target.value) || 2)))}
          />
        </label>
        <button type="button" className="button justify-self-end" onClick={() => onCut(at, parts)} aria-label={`Cut ${name}`}>
          Cut
        </button>
      </div>
    </details>
  )
}

function Words({
  name,
  words,
  pairs,
  onPairs,
}: {
  name: string
  words: string[]
  pairs: [string, string][]
  onPairs: (pairs: [string, string][]) => void
}) {
  const all = [...new Set([...pairs.map(([from]) => from), ...words])]
  const put = (from: string, to: string | null) =>
    onPairs([...pairs.filter(([other]) => other !== from), ...(to === null ? [] : [[from, to] as [string, string]])])
  return (
    <details>
      <summary className={summary}>{pairs.length > 0 ? `${pairs.length} reworded` : 'reword'}</summary>
      <table className="my-1 w-full text-[0.8125rem]" aria-label={`What ${name} is taken to say`}>
        <tbody>
          {all.map((from) => {
            const to = pairs.find(([other]) => other === from)?.[1]
            return (
              <tr key={from}>
                <td className="max-w-[9rem] truncate pr-2" title={from}>
                  {from}
                </td>
                <td>
                  <input
                    className="w-full"
                    aria-label={`${from} is taken to say`}
                    placeholder={from}
                    value={to ?? ''}
                    onChange={(event) => put(from, event.target.value || null)}
                  />
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="quiet">The most used words of the first rows. Capitals do not matter; the file itself is kept as it came.</p>
    </details>
  )
}

function MakeColumn({ header, onMake }: { header: string[]; onMake: (column: MadeColumn) => void }) {
  const [of, setOf] = useState<number[]>([])
  const [between, setBetween] = useState(' ')
  const [value, setValue] = useState('')
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-semibold text-verdigris">Make a column</summary>
      <div className="mt-2 grid gap-3 rounded-lg border border-rule p-3">
        <fieldset className="grid gap-1">
          <legend className="quiet mb-1">
            Join columns, in this order: {of.length > 0 ? of.map((i) => header[i] || `column ${i + 1}`).join(', ') : 'none yet'}
          </legend>
          <div className="grid max-h-40 grid-cols-2 gap-1 overflow-y-auto">
            {header.map((title, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: columns have no other identity; two may share a title
              <label key={i} className="flex items-center gap-2 break-words">
                <input
                  type="checkbox"
                  checked={of.includes(i)}
                  onChange={(event) => setOf(event.target.checked ? [...of, i] : of.filter((other) => other !== i))}
                />
                {title || `column ${i + 1}`}
              </label>
            ))}
          </div>
          <div className="flex items-end justify-between gap-2">
            <label className="field">
              <span>With this between them</span>
              <input className="w-24" value={between} maxLength={10} onChange={(event) => setBetween(event.target.value)} />
            </label>
            <button
              type="button"
              className="button"
              disabled={of.length < 2}
              onClick={() => {
                onMake({ is: 'joined', of, with: between })
                setOf([])
              }}
            >
              Join
            </button>
          </div>
        </fieldset>
        <div className="flex items-end justify-between gap-2 border-t border-rule pt-3">
          <label className="field grow">
            <span>The same in every row</span>
            <input value={value} maxLength={200} onChange={(event) => setValue(event.target.value)} />
          </label>
          <button
            type="button"
            className="button"
            disabled={value.trim() === ''}
            onClick={() => {
              onMake({ is: 'always', value: value.trim() })
              setValue('')
            }}
          >
            Add it
          </button>
        </div>
      </div>
    </details>
  )
}

'use client'

import { useState, useTransition } from 'react'
import { type Reading, type ReadingChoices, readingText } from '@/core/match/reading'
import type { ActionResult } from '@/core/views/action-result'

const ENCODINGS = ['UTF-8', 'windows-1252', 'ISO-8859-15', 'windows-1250', 'UTF-16LE', 'macintosh']
const DELIMITERS = [
  [',', 'commas'],
  [';', 'semicolons'],
  ['\t', 'tabs'],
  ['|', 'bars'],
] as const

/** How a file is read, and what of that can be chosen otherwise: another sheet, another row of titles, another encoding. */
export function ReadingFields({
  reading,
  choices,
  read,
  onTold,
}: {
  reading: Reading
  choices: ReadingChoices
  read: (asked: Partial<Reading>) => Promise<ActionResult<unknown>>
  onTold: (text: string | null) => void
}) {
  const [busy, begin] = useTransition()
  const [row, setRow] = useState(String(reading.headerRow))
  const again = (asked: Partial<Reading>) =>
    begin(async () => {
      const result = await read({ ...(reading.entry === undefined ? {} : { entry: reading.entry }), ...asked })
      onTold(result.ok ? null : result.error)
    })
  const table = reading.format === 'csv' || reading.format === 'xlsx'
  const { sheet, encoding, delimiter, decimal, monthFirst } = reading
  const kept = { ...(reading.format === 'csv' ? { encoding, delimiter } : reading.format === 'xlsx' ? { sheet } : {}), decimal, monthFirst }
  return (
    <>
      {(choices.swappable ?? 0) > 0 && !reading.swapped && (
        <p role="status" className="said mt-3">
          The coordinates look as if they had changed places: only the other way round do all {choices.swappable} points lie where premises
          are.{' '}
          <button type="button" className="button px-2! py-0.5!" disabled={busy} onClick={() => again({ swapped: true })}>
            Swap them
          </button>
        </p>
      )}
      <details className="quiet">
        <summary className="cursor-pointer py-0.5">{busy ? 'The file is being read again' : readingText(reading)}</summary>
        <div className="mt-2 grid grid-cols-2 gap-2.5 rounded-lg border border-rule bg-leaf p-3">
          {choices.entries && choices.entries.length > 1 && (
            <Choose
              label="File in the archive"
              value={reading.entry ?? ''}
              all={choices.entries.map((name) => [name, name])}
              onChoose={(entry) => again({ entry })}
            />
          )}
          {choices.sheets && choices.sheets.length > 1 && (
            <Choose
              label="Sheet"
              value={sheet ?? ''}
              all={choices.sheets.map((name) => [name, name])}
              onChoose={(name) => again({ sheet: name })}
            />
          )}
          {table && (
            <label className="field">
              <span>Titles stand in row (0 for none)</span>
              <input
                type="number"
                min={0}
                max={50}
                value={row}
                disabled={busy}
                onChange={(event) => setRow(event.target.value)}
                onBlur={() => row !== '' && Number(row) !== reading.headerRow && again({ ...kept, headerRow: Number(row) })}
                onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
              />
            </label>
          )}
          {reading.format === 'csv' && (
            <>
              <Choose
                label="Columns are split by"
                value={delimiter ?? ','}
                all={DELIMITERS}
                onChoose={(next) => again({ ...kept, delimiter: next })}
              />
              <Choose
                label="Encoding"
                value={encoding ?? 'UTF-8'}
                all={[...new Set([encoding ?? 'UTF-8', ...ENCODINGS])].map((name) => [name, name])}
                onChoose={(next) => again({ ...kept, encoding: next })}
              />
            </>
          )}
          <Choose
            label="Numbers are written"
            value={decimal ?? '.'}
            all={[
              ['.', '1,234.5'],
              [',', '1.234,5'],
            ]}
            onChoose={(next) => again({ ...kept, headerRow: reading.headerRow, decimal: next as '.' | ',' })}
          />
          <Choose
            label="Dates are written"
            value={monthFirst ? 'month' : 'day'}
            all={[
              ['day', 'day first: 27/11/2026'],
              ['month', 'month first: 11/27/2026'],
            ]}
            onChoose={(next) => again({ ...kept, headerRow: reading.headerRow, monthFirst: next === 'month' })}
          />
          {table && <p className="col-span-2">Rows are counted from the first one that is not blank.</p>}
        </div>
      </details>
    </>
  )
}

function Choose({
  label,
  value,
  all,
  onChoose,
}: {
  label: string
  value: string
  all: readonly (readonly [string, string])[]
  onChoose: (value: string) => void
}) {
  return (
    <label className="field">
      <span>{label}</span>
      <select value={value} onChange={(event) => onChoose(event.target.value)}>
        {all.map(([key, name]) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
    </label>
  )
}

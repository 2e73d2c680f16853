'use client'

import type { FieldUnit } from '@/core/clean/standard-fields'
import { numberText } from '@/core/text/field-text'
import type { Unit } from '@/core/text/units'
import { Measures } from '@/ui/forms/measure'
import { useMemo } from 'react'
import type { Criterion } from '@/core/criteria/registry'
import { type Form, type RangeBand, rangeText } from '@/core/criteria/kind'
import type { Line } from '@/core/lists/line'
import { useAsked } from '@/ui/book/asking'
import { useAnswer } from '@/ui/book/use-answer'
import { Boxes, Known, WordsField } from './field-parts'
import type { Choices } from './form-props'
import { count } from '@/ui/book/figures'
import { IndustryCodes } from './industry-codes'
import { moneySign } from '@/core/text/written'

/** How many of those on the page before a line have each value, by the value; null until it is known, or where it cannot be counted. */
export function useValueCounts(before: Line[], key: string | null): Map<string, number> | null {
  const { answer } = useAsked<{ rows: { label: string; count: number }[] }>(
    key === null ? null : ['/api/list-group', { lines: before, view: { tab: 'on' }, key }],
    { hold: true },
  )
  return useMemo(() => (answer && key !== null ? new Map(answer.rows.map((row) => [row.label, row.count])) : null), [answer, key])
}

/** The form of a criterion that is one fact. */
export function FactFields({
  form,
  draft,
  setDraft,
  choices,
  counts,
}: {
  form: Form
  draft: Criterion
  setDraft: (next: Criterion) => void
  choices: Choices
  counts: Map<string, number> | null
}) {
  const set = (part: object) => setDraft({ ...draft, ...part } as Criterion)
  const of = draft as unknown as {
    any: string[]
    all: string[]
    none: string[]
    least: number | null
    most: number | null
    unit?: Unit
    from: string | null
    to: string | null
  }
  switch (form.of) {
    case 'choices':
      return (
        <Boxes
          legend={`${form.legend}: any of`}
          hint={form.hint}
          all={form.all}
          chosen={of.any}
          onChoose={(any) => set({ any })}
          counts={counts}
        />
      )
    case 'words': {
      const known =
        draft.kind === 'industry-code' ? [] : form.known ? choices.words[form.known] : counts ? [...counts.keys()].slice(0, 12) : []
      return (
        <WordsField label={`${form.label}, one a line`} hint={form.hint} words={of.any} onWords={(any) => set({ any })} rows={3}>
          <span className="mt-1 flex flex-wrap gap-1">
            <Known words={known} chosen={of.any} onChoose={(word) => set({ any: [...of.any, word] })} counts={counts} />
          </span>
          {draft.kind === 'industry-code' && (
            <IndustryCodes chosen={of.any} onChoose={(code) => set({ any: [...of.any, code] })} counts={counts} />
          )}
        </WordsField>
      )
    }
    case 'says':
      return (
        <>
          <WordsField
            label="Any of these words or phrases, one a line"
            hint={form.hint}
            words={of.any}
            onWords={(any) => set({ any })}
            rows={3}
          />
          <WordsField label="And all of these" words={of.all} onWords={(all) => set({ all })} rows={2} />
          <WordsField label="But none of these" words={of.none} onWords={(none) => set({ none })} rows={2} />
        </>
      )
    case 'range':
      return (
        <>
          <Ends
            label={form.label}
            unit={form.unit === 'money' ? moneySign() : form.unit === 'year' ? undefined : form.unit}
            told={of.unit}
            hint={form.hint}
            least={of.least}
            most={of.most}
            onEnds={set}
          />
          {form.bands && <Bands bands={form.bands} unit={form.unit} least={of.least} most={of.most} onBand={set} />}
        </>
      )
    case 'time':
      return (
        <>
          <Ends
            label={form.label}
            unit="months"
            hint={form.hint}
            least={of.least}
            most={of.most}
            onEnds={({ least, most }) => set({ least, most, from: null, to: null })}
          />
          <fieldset className="grid grid-cols-2 gap-2">
            <legend className="quiet mb-1 font-semibold">Or by the date itself</legend>
            {(['from', 'to'] as const).map((end) => (
              <label key={end} className="field">
                <span>{end === 'from' ? 'From' : 'To'}</span>
                <input
                  type="date"
                  value={of[end] ?? ''}
                  onChange={(e) => set({ [end]: e.target.value || null, least: null, most: null })}
                />
              </label>
            ))}
          </fieldset>
        </>
      )
  }
}

/** Bands that fill in both ends with one press. */
function Bands({
  bands,
  unit,
  least,
  most,
  onBand,
}: {
  bands: readonly RangeBand[]
  unit: FieldUnit | undefined
  least: number | null
  most: number | null
  onBand: (band: RangeBand) => void
}) {
  const text = (end: number | null) => (end === null ? null : numberText(end, unit))
  return (
    <div role="group" aria-label="Bands" className="flex flex-wrap gap-1">
      {bands.map((band) => (
        <button
          key={`${band.least}-${band.most}`}
          type="button"
          className={`chip ${band.least === least && band.most === most ? 'font-semibold' : ''}`}
          aria-pressed={band.least === least && band.most === most}
          onClick={() => onBand(band)}
        >
          {rangeText(text(band.least), text(band.most))}
        </button>
      ))}
    </div>
  )
}

/** At least and at most, either of which may be left open. */
export function Ends({
  label,
  unit,
  told,
  hint,
  least,
  most,
  onEnds,
}: {
  label: string
  unit?: string
  /** Of a quantity: the unit its ends were told in. */
  told?: Unit
  hint?: string
  least: number | null
  most: number | null
  onEnds: (ends: { least?: number | null; most?: number | null; unit?: Unit }) => void
}) {
  const value = (text: string) => (text.trim() === '' || !Number.isFinite(Number(text)) ? null : Number(text))
  if (unit === 'm²' || unit === 'months')
    return (
      <fieldset className="grid grid-cols-3 gap-2">
        <legend className="quiet mb-1 font-semibold">{label}</legend>
        <Measures
          quantity={unit}
          unit={told}
          labels={{ least: 'At least', most: 'At most' }}
          values={{ least, most }}
          onValues={(ends, next) => onEnds(next === unit ? { ...ends, unit: undefined } : { ...ends, unit: next })}
        />
        {hint && <p className="quiet col-span-3">{hint}</p>}
      </fieldset>
    )
  return (
    <fieldset className="grid grid-cols-2 gap-2">
      <legend className="quiet mb-1 font-semibold">
        {label}
        {unit && `, in ${unit}`}
      </legend>
      <label className="field">
        <span>At least</span>
        <input type="number" step="any" autoFocus value={least ?? ''} onChange={(e) => onEnds({ least: value(e.target.value) })} />
      </label>
      <label className="field">
        <span>At most</span>
        <input type="number" step="any" value={most ?? ''} onChange={(e) => onEnds({ most: value(e.target.value) })} />
      </label>
      {hint && <p className="quiet col-span-2">{hint}</p>}
    </fieldset>
  )
}

/** What a line would do while it is being filled in: how many it would leave, take out, and of how many it is not known. */
export function Foretold({ before, line }: { before: Line[]; line: Line | null }) {
  const said = useAnswer<{ figures: { lines: { out: number; unknown: number; in: number; balance: number; stayedUnknown: number }[] } }>(
    '/api/list-account',
    line && { lines: [...before, line], view: { tab: 'on' }, figuresOnly: true },
    120,
  )
  const last = said?.figures.lines.at(-1)
  return (
    <p role="status" className="quiet tabular-nums" data-testid="foretold">
      {last
        ? [
            `leaves ${count(last.balance)}`,
            last.out > 0 && `out ${count(last.out)}`,
            last.unknown > 0 && `unknown ${count(last.unknown)}`,
            last.in > 0 && `in ${count(last.in)}`,
            last.stayedUnknown > 0 && `unknown and kept ${count(last.stayedUnknown)}`,
          ]
            .filter(Boolean)
            .join(' · ')
        : ' '}
    </p>
  )
}

'use client'

import { ASKS_NAME } from '@/core/changes/asks'
import { ASKED, type ChangedCriterion, STATES } from '@/core/criteria/changed'
import type { Criterion } from '@/core/criteria/registry'
import { useAsked } from '@/ui/book/asking'
import { Known as KnownWords, WordsField } from './field-parts'
import type { Choices } from './form-props'

type Changed = ChangedCriterion<'changed' | 'org-changed' | 'premises-changed'>
type Known = { id: number; name: string; asks: string }[]

/** Which changes are asked for: what they ask or their kinds, since when, how many, and what became of them. */
export function ChangedFields({
  draft,
  setDraft,
  rounds,
}: {
  draft: Changed
  setDraft: (next: Criterion) => void
  rounds: Choices['rounds']
}) {
  const { answer: kinds = [] } = useAsked<Known>(['/api/change-kinds'])
  const { answer: sources = [] } = useAsked<string[]>(['/api/change-sources'])
  const put = (next: Partial<Changed>) => setDraft({ ...draft, ...next } as Criterion)
  return (
    <fieldset className="grid gap-2.5">
      <legend className="quiet mb-1 font-semibold">Which changes</legend>
      <span className="flex flex-wrap gap-x-3 gap-y-1">
        {ASKED.map((asks) => (
          <label key={asks} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={draft.asks.includes(asks)}
              onChange={(event) => put({ asks: ASKED.filter((own) => (own === asks ? event.target.checked : draft.asks.includes(own))) })}
            />{' '}
            {ASKS_NAME[asks]}
          </label>
        ))}
      </span>
      <details open={draft.kinds.length > 0}>
        <summary className="cursor-pointer text-verdigris">Only some kinds</summary>
        <span className="mt-1.5 grid grid-cols-2 gap-x-3 gap-y-1">
          {kinds.map((kind) => (
            <label key={kind.id} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={draft.kinds.some((own) => own.id === kind.id)}
                onChange={(event) =>
                  put({
                    kinds: event.target.checked
                      ? [...draft.kinds, { id: kind.id, name: kind.name }]
                      : draft.kinds.filter((own) => own.id !== kind.id),
                  })
                }
              />{' '}
              {kind.name}
            </label>
          ))}
        </span>
      </details>
      <span className="flex flex-wrap items-center gap-2">
        <select
          aria-label="By which day"
          value={draft.by}
          onChange={(event) => put({ by: event.target.value === 'learned' ? 'learned' : 'happened' })}
        >
          <option value="happened">happened</option>
          <option value="learned">we learned of</option>
        </select>
        <select
          aria-label="Since when"
          value={draft.since ? 'round' : 'days'}
          onChange={(event) => {
            const first = rounds[0]
            put(
              event.target.value === 'round' && first
                ? { since: { id: first.id, name: first.name }, days: null }
                : { since: null, days: 90 },
            )
          }}
        >
          <option value="days">within</option>
          {rounds.length > 0 && <option value="round">since the last round of</option>}
        </select>
        {draft.since ? (
          <select
            aria-label="List"
            className="min-w-0"
            value={draft.since.id}
            onChange={(event) => {
              const list = rounds.find(({ id }) => id === Number(event.target.value))
              if (list) put({ since: { id: list.id, name: list.name } })
            }}
          >
            {rounds.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        ) : (
          <>
            <input
              type="number"
              min={1}
              max={3650}
              aria-label="Days"
              className="w-20"
              placeholder="ever"
              value={draft.days ?? ''}
              onChange={(event) => put({ days: event.target.value === '' ? null : Number(event.target.value) })}
            />{' '}
            days
          </>
        )}
      </span>
      <div className="grid grid-cols-2 gap-2.5">
        <label className="field">
          <span>At least so many</span>
          <input
            type="number"
            min={1}
            max={1000}
            value={draft.least}
            onChange={(event) => put({ least: Math.max(1, Number(event.target.value)) })}
          />
        </label>
        <label className="field">
          <span>What became of them</span>
          <select value={draft.state} onChange={(event) => put({ state: STATES.find((own) => own === event.target.value) ?? 'any' })}>
            <option value="any">any</option>
            <option value="unhandled">not handled yet</option>
            <option value="handled">handled or set aside</option>
          </select>
        </label>
      </div>
      <details open={(draft.words?.length ?? 0) + (draft.sources?.length ?? 0) > 0}>
        <summary className="cursor-pointer text-verdigris">Only with some words, or from some sources</summary>
        <div className="mt-1.5 grid gap-2.5">
          <WordsField
            label="Words, one a line"
            hint="Any of them, in what was reported or in the new role or organisation. Endings do not matter. Ask for other fields by their own lines."
            words={draft.words ?? []}
            onWords={(words) => put({ words: words.length > 0 ? words : undefined })}
            rows={2}
          />
          <WordsField
            label="Sources, one a line"
            hint="Any of them: part of a name is enough."
            words={draft.sources ?? []}
            onWords={(own) => put({ sources: own.length > 0 ? own : undefined })}
            rows={2}
          >
            <span className="mt-1 flex flex-wrap gap-1.5">
              <KnownWords
                words={sources}
                chosen={draft.sources ?? []}
                onChoose={(source) => put({ sources: [...(draft.sources ?? []), source] })}
              />
            </span>
          </WordsField>
        </div>
      </details>
      <p className="quiet">
        No change on record is a no, not unknown. Where it is only known that something happened between two days, and one of them lies
        further back, the answer is unknown.
      </p>
    </fieldset>
  )
}

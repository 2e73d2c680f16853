'use client'

import { useId } from 'react'
import type { Criterion } from '@/core/criteria/registry'
import type { Choices } from './form-props'
import { CHANNEL_NAME, CHANNELS, type Way, WAYS } from '@/core/records/channels'

/** Which ways of contact count: the four channels unless others are chosen. */
export function WaysField({ ways, onWays }: { ways: readonly Way[] | undefined; onWays: (ways: Way[] | undefined) => void }) {
  const chosen = ways ?? CHANNELS
  const set = (next: Way[]) => onWays(next.length === CHANNELS.length && CHANNELS.every((c) => next.includes(c)) ? undefined : next)
  return (
    <fieldset>
      <legend className="quiet mb-1 font-semibold">Which contacts count</legend>
      <span className="flex flex-wrap gap-x-3 gap-y-1">
        {WAYS.map((way) => (
          <label key={way} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={chosen.includes(way)}
              onChange={(e) => set(WAYS.filter((w) => (w === way ? e.target.checked : chosen.includes(w))))}
            />{' '}
            {CHANNEL_NAME[way]}
          </label>
        ))}
      </span>
    </fieldset>
  )
}

/** When somebody was last contacted, by whom, and which contacts count. */
export function ContactedFields({
  draft,
  setDraft,
  me,
  team,
}: {
  draft: Extract<Criterion, { kind: 'contacted' }>
  setDraft: (next: Criterion) => void
  me: Choices['me']
  team: Choices['team']
}) {
  const name = useId()
  const choose = (how: typeof draft.how) =>
    setDraft({
      kind: 'contacted',
      how,
      by: draft.by,
      ...(draft.ways ? { ways: draft.ways } : {}),
      ...(how === 'within' ? { days: draft.days ?? 30 } : how === 'before' ? { date: draft.date ?? '' } : {}),
    })
  return (
    <fieldset className="grid gap-2">
      <legend className="quiet mb-1 font-semibold">When</legend>
      <label className="flex items-center gap-2">
        <input type="radio" name={name} checked={draft.how === 'never'} onChange={() => choose('never')} /> never contacted
      </label>
      <label className="flex items-center gap-2">
        <input type="radio" name={name} checked={draft.how === 'within'} onChange={() => choose('within')} /> contacted within
        <input
          type="number"
          min={1}
          max={3650}
          aria-label="Days"
          className="w-20"
          value={draft.how === 'within' ? (draft.days ?? '') : 30}
          onChange={(event) => setDraft({ ...draft, how: 'within', days: Number(event.target.value), date: undefined })}
        />{' '}
        days
      </label>
      <label className="flex items-center gap-2">
        <input type="radio" name={name} checked={draft.how === 'before'} onChange={() => choose('before')} /> last contacted before
        <input
          type="date"
          aria-label="Date"
          value={draft.how === 'before' ? (draft.date ?? '') : ''}
          onChange={(event) => setDraft({ ...draft, how: 'before', date: event.target.value, days: undefined })}
        />
      </label>
      <ByField by={draft.by} onBy={(by) => setDraft({ ...draft, by })} me={me} team={team} />
      <WaysField
        ways={draft.ways}
        onWays={(ways) => {
          const { ways: _, ...rest } = draft
          setDraft(ways ? { ...rest, ways } : rest)
        }}
      />
      <p className="quiet">
        A person who was never contacted does not match the other two. To remove people contacted recently, use a drop line.
      </p>
    </fieldset>
  )
}

/** By whom a contact was made: anyone, me, or another of the team. */
export function ByField({
  by,
  onBy,
  me,
  team,
}: {
  by: { id: string; name: string } | null
  onBy: (by: { id: string; name: string } | null) => void
  me: Choices['me']
  team: Choices['team']
}) {
  const others = team.filter((t) => t.id !== me.id)
  const known = by && by.id !== me.id && !others.some((t) => t.id === by.id) ? [by, ...others] : others
  return (
    <label className="field">
      <span>By</span>
      <select
        value={by?.id ?? ''}
        onChange={(event) =>
          onBy(
            event.target.value === ''
              ? null
              : event.target.value === me.id
                ? { id: me.id, name: me.name }
                : (known.find((t) => t.id === event.target.value) ?? null),
          )
        }
      >
        <option value="">anyone</option>
        <option value={me.id}>me ({me.name})</option>
        {known.map((t) => (
          <option key={t.id} value={t.id}>
            {t.name}
          </option>
        ))}
      </select>
    </label>
  )
}

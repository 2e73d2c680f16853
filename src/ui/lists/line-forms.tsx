'use client'

import { useState } from 'react'
import { EVERYTHING, type Subject } from '@/core/records/subject'
import { type LimitLine, PER_LACKS, PERS, type PickLine, type StartLine, subjectOf } from '@/core/lists/line'
import { BEST_FIT, RANK_NOTE, RANKS } from '@/core/lists/rank'
import type { FormProps } from './form-props'
import { countText } from '@/core/text/written'

/** What a list starts with. */
export function StartForm({ line, choices, onChange, onDone }: FormProps<StartLine>) {
  return (
    <div className="grid gap-2">
      <label className="field">
        <span>Start with</span>
        <select
          autoFocus
          value={line.batch?.id ?? ''}
          onChange={(event) => {
            const batch = choices.batches.find((b) => String(b.id) === event.target.value) ?? null
            onChange({ ...line, batch })
            onDone()
          }}
        >
          <option value="">{EVERYTHING[line.subject ?? 'person']} in the directory</option>
          {choices.batches.map((batch) => (
            <option key={batch.id} value={batch.id}>
              {EVERYTHING[line.subject ?? 'person']} from {batch.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  )
}

const PER_OF = {
  organisation: 'each organisation',
  household: 'each household',
  premises: 'each premises',
  postcode: 'each postcode',
  all: 'all on the list',
} as const
const PERS_OF: Record<Subject, readonly (keyof typeof PER_OF)[]> = {
  person: PERS,
  organisation: ['premises', 'postcode', 'all'],
  premises: ['postcode', 'all'],
}
const OF_ANY: readonly string[] = ['largest', 'at random', 'first in the directory', 'last in the directory']

const newSeed = () => crypto.getRandomValues(new Uint16Array(1))[0]

/** A limit with another ranking; one at random is drawn from a number that stays. */
function rankedBy({ seed, like, ...line }: LimitLine, rank: LimitLine['rank']): LimitLine {
  if (rank === 'at random') return { ...line, rank, seed: seed ?? newSeed() }
  return rank === BEST_FIT ? { ...line, rank, like } : { ...line, rank }
}

/** How many, of what, and who comes first. */
export function LimitForm({ line, before, choices, onChange, onDone }: FormProps<LimitLine>) {
  const subject = subjectOf(before)
  const [draft, setDraft] = useState(line)
  const [told, setTold] = useState('')
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (!Number.isInteger(draft.most) || draft.most < 1) return setTold('A limit is a whole number of 1 or more.')
        if (draft.rank === BEST_FIT && !draft.like) return setTold('Choose a list to compare with.')
        onChange(draft)
        onDone()
      }}
    >
      <div className="grid grid-cols-[90px_1fr] gap-2">
        <label className="field">
          <span>At most</span>
          <input
            type="number"
            min={1}
            autoFocus
            value={draft.most || ''}
            onChange={(e) => setDraft({ ...draft, most: Number(e.target.value) })}
          />
        </label>
        <label className="field">
          <span>Of</span>
          <select value={draft.per} onChange={(e) => setDraft({ ...draft, per: e.target.value as LimitLine['per'] })}>
            {/* One that was made before may be by something that is not offered any more. */}
            {[...new Set([...PERS_OF[subject], draft.per])].map((per) => (
              <option key={per} value={per}>
                {PER_OF[per]}
              </option>
            ))}
          </select>
        </label>
      </div>
      <label className="field">
        <span>Who comes first</span>
        <select value={draft.rank} onChange={(e) => setDraft(rankedBy(draft, e.target.value as LimitLine['rank']))}>
          {[...RANKS.filter((rank) => subject === 'person' || OF_ANY.includes(rank)), BEST_FIT].map((rank) => (
            <option key={rank}>{rank}</option>
          ))}
        </select>
      </label>
      {draft.rank === BEST_FIT && (
        <label className="field">
          <span>Like those of</span>
          <select
            value={draft.like?.id ?? ''}
            onChange={(e) => {
              const list = choices.lists.find((l) => String(l.id) === e.target.value)
              setDraft({ ...draft, like: list && { id: list.id, name: list.name } })
            }}
          >
            <option value="">choose a list</option>
            {choices.lists
              .filter((l) => l.subject === subject)
              .map((l) => (
                <option key={l.id} value={l.id}>
                  {l.name}
                </option>
              ))}
          </select>
        </label>
      )}
      <p className="quiet">
        Ranked {RANK_NOTE[draft.rank]}; ties by who came into the directory first.
        {draft.per !== 'all' && ` Those that ${PER_LACKS[draft.per]} are not limited; the line shows how many.`}
        {draft.rank === 'at random' && (
          <button type="button" className="ml-1 font-semibold text-verdigris" onClick={() => setDraft({ ...draft, seed: newSeed() })}>
            Draw again (draw {draft.seed})
          </button>
        )}
      </p>
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
      <button type="submit" className="button button-main justify-self-end">
        Done
      </button>
    </form>
  )
}

/** Why people were picked, and until when. */
export function PickForm({ line, onChange, onDone }: FormProps<PickLine>) {
  const [draft, setDraft] = useState(line)
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        onChange({ ...draft, reason: draft.reason.trim(), until: draft.until || null })
        onDone()
      }}
    >
      <b>
        {countText(line.set.count)} picked {line.side} by {line.by}
      </b>
      <label className="field">
        <span>Reason</span>
        <input autoFocus maxLength={200} value={draft.reason} onChange={(e) => setDraft({ ...draft, reason: e.target.value })} />
      </label>
      <label className="field">
        <span>Until, if not for good</span>
        <input type="date" value={draft.until ?? ''} onChange={(e) => setDraft({ ...draft, until: e.target.value })} />
      </label>
      <button type="submit" className="button button-main justify-self-end">
        Done
      </button>
    </form>
  )
}

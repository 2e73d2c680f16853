'use client'

import { type ReactNode, useState } from 'react'
import { CHANNEL_NAME, CHANNELS, RELATIONS, SCREENED, type Way, WAYS } from '@/core/columns/person-record'
import { BAND_NAMES } from '@/core/criteria/head-count'
import { type Criterion, CRITERIA, validCriterion } from '@/core/criteria/registry'
import type { CriterionLine, LimitLine, Line, PickLine, StartLine } from '@/core/lists/line'
import { RANK_NOTE, RANKS } from '@/core/lists/rank'

export interface Choices {
  batches: { id: number; name: string }[]
  /** Lists that lines may name: every other list this person sees. */
  lists: { id: number; name: string; shared: boolean; edition: number; rounds: number }[]
  words: { towns: string[]; counties: string[]; industries: string[]; tags: string[] }
  me: { id: string; name: string }
}

interface FormProps<L> {
  line: L
  choices: Choices
  onChange: (line: Line) => void
  onDone: () => void
}

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
          <option value="">everyone in the directory</option>
          {choices.batches.map((batch) => (
            <option key={batch.id} value={batch.id}>
              everyone from {batch.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  )
}

/** How many, of what, and who comes first. */
export function LimitForm({ line, onChange, onDone }: FormProps<LimitLine>) {
  const [draft, setDraft] = useState(line)
  const [told, setTold] = useState('')
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (!Number.isInteger(draft.most) || draft.most < 1) return setTold('A limit is a whole number of 1 or more.')
        onChange(draft)
        onDone()
      }}
    >
      <div className="grid grid-cols-[90px_1fr] gap-2">
        <label className="field">
          <span>At most</span>
          <input type="number" min={1} autoFocus value={draft.most || ''} onChange={(e) => setDraft({ ...draft, most: Number(e.target.value) })} />
        </label>
        <label className="field">
          <span>Of</span>
          <select value={draft.per} onChange={(e) => setDraft({ ...draft, per: e.target.value as LimitLine['per'] })}>
            <option value="organisation">each organisation</option>
            <option value="all">all on the list</option>
          </select>
        </label>
      </div>
      <label className="field">
        <span>Who comes first</span>
        <select value={draft.rank} onChange={(e) => setDraft({ ...draft, rank: e.target.value as LimitLine['rank'] })}>
          {RANKS.map((rank) => (
            <option key={rank}>{rank}</option>
          ))}
        </select>
      </label>
      <p className="quiet">
        {RANK_NOTE[draft.rank]}; ties by who came into the directory first.{draft.per === 'organisation' && ' Whoever has no organisation is not limited, and the line tells how many.'}
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
        {line.set.count.toLocaleString('en-GB')} picked {line.side} by {line.by}
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

/** The form behind a line's chips: each change counts at once when it is whole. */
export function CriterionForm({ line, choices, onChange, onDone }: FormProps<CriterionLine>) {
  const [draft, setDraft] = useState<Criterion>(line.criterion)
  const [told, setTold] = useState('')
  const done = (criterion: Criterion) => {
    try {
      onChange({ ...line, criterion: validCriterion(JSON.parse(JSON.stringify(criterion))) })
      onDone()
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        done(draft)
      }}
    >
      <b>{CRITERIA[line.criterion.kind].name}</b>
      <Fields draft={draft} setDraft={setDraft} choices={choices} />
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

function Fields({ draft, setDraft, choices }: { draft: Criterion; setDraft: (next: Criterion) => void; choices: Choices }) {
  switch (draft.kind) {
    case 'role':
      return <WordsField label="Words or phrases of the role, one a line" hint="Any of them, in any wording: estate also finds Estates Manager." words={draft.any} onWords={(any) => setDraft({ ...draft, any })} />
    case 'place':
      return (
        <>
          <WordsField label="Towns, one a line" words={draft.towns} onWords={(towns) => setDraft({ ...draft, towns })} rows={3}>
            <span className="mt-1 flex flex-wrap gap-1">
              <Known words={choices.words.towns} chosen={draft.towns} onChoose={(town) => setDraft({ ...draft, towns: [...draft.towns, town] })} />
            </span>
          </WordsField>
          <WordsField label="Or postcodes that begin with, one a line" words={draft.postcodes} onWords={(postcodes) => setDraft({ ...draft, postcodes })} rows={2} />
        </>
      )
    case 'reach':
      return (
        <label className="field">
          <span>Has a usable</span>
          <select autoFocus value={draft.channel} onChange={(event) => setDraft({ ...draft, channel: event.target.value as typeof draft.channel })}>
            {SCREENED.map((channel) => (
              <option key={channel} value={channel}>
                {channel === 'email' ? 'e-mail address' : channel === 'phone' ? 'phone number' : 'postal address'}
              </option>
            ))}
          </select>
        </label>
      )
    case 'relation':
      return (
        <fieldset className="grid gap-1">
          <legend className="quiet mb-1 font-semibold">Relation to us is any of</legend>
          {RELATIONS.map((relation) => (
            <label key={relation} className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={draft.any.includes(relation)}
                onChange={(event) => setDraft({ ...draft, any: event.target.checked ? [...draft.any, relation] : draft.any.filter((r) => r !== relation) })}
              />
              {relation}
            </label>
          ))}
        </fieldset>
      )
    case 'contacted':
      return <ContactedFields draft={draft} setDraft={setDraft} me={choices.me} />
    case 'industry':
    case 'county':
    case 'tag': {
      const known = draft.kind === 'industry' ? choices.words.industries : draft.kind === 'county' ? choices.words.counties : choices.words.tags
      return (
        <WordsField label={`${WORD_LABEL[draft.kind]}, one a line`} words={draft.any} onWords={(any) => setDraft({ ...draft, any })} rows={3}>
          <span className="mt-1 flex flex-wrap gap-1">
            <Known words={known} chosen={draft.any} onChoose={(word) => setDraft({ ...draft, any: [...draft.any, word] })} />
          </span>
        </WordsField>
      )
    }
    case 'head-count':
      return (
        <fieldset className="grid gap-1">
          <legend className="quiet mb-1 font-semibold">How many work at the organisation</legend>
          {BAND_NAMES.map((band) => (
            <label key={band} className="flex items-center gap-2">
              <input type="checkbox" checked={draft.any.includes(band)} onChange={(e) => setDraft({ ...draft, any: e.target.checked ? BAND_NAMES.filter((b) => b === band || draft.any.includes(b)) : draft.any.filter((b) => b !== band) })} />
              {band}
            </label>
          ))}
        </fieldset>
      )
    case 'batch':
      return (
        <label className="field">
          <span>File they were in</span>
          <select autoFocus value={draft.batch.id || ''} onChange={(e) => setDraft({ ...draft, batch: choices.batches.find((b) => b.id === Number(e.target.value)) ?? draft.batch })}>
            <option value="" disabled>
              choose a file
            </option>
            {choices.batches.map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
          </select>
        </label>
      )
    case 'list':
    case 'round':
      return <NamedListFields draft={draft} setDraft={setDraft} lists={choices.lists} />
  }
}

const WORD_LABEL = { industry: 'Industries', county: 'Counties', tag: 'Tags' } as const

/** Words that stand in the directory and are not chosen yet, to choose with one press. */
function Known({ words, chosen, onChoose }: { words: string[]; chosen: string[]; onChoose: (word: string) => void }) {
  return words
    .filter((word) => !chosen.includes(word))
    .slice(0, 12)
    .map((word) => (
      <button key={word} type="button" className="chip text-[12.5px]" onClick={() => onChoose(word)}>
        {word}
      </button>
    ))
}

function NamedListFields({ draft, setDraft, lists }: { draft: Extract<Criterion, { kind: 'list' | 'round' }>; setDraft: (next: Criterion) => void; lists: Choices['lists'] }) {
  const list = lists.find((l) => l.id === draft.list.id)
  const offered = draft.kind === 'round' ? lists.filter((l) => l.rounds > 0) : lists
  return (
    <>
      <label className="field">
        <span>List</span>
        <select
          autoFocus
          value={draft.list.id || ''}
          onChange={(e) => {
            const chosen = lists.find((l) => l.id === Number(e.target.value))
            if (chosen) setDraft(draft.kind === 'list' ? { ...draft, list: { id: chosen.id, name: chosen.name }, edition: null } : { ...draft, list: { id: chosen.id, name: chosen.name }, which: 'any' })
          }}
        >
          <option value="" disabled>
            {offered.length === 0 ? (draft.kind === 'round' ? 'no list has had a round yet' : 'there is no other list') : 'choose a list'}
          </option>
          {offered.map((l) => (
            <option key={l.id} value={l.id}>
              {l.name}
              {l.shared ? '' : ' (private)'}
            </option>
          ))}
        </select>
      </label>
      {draft.kind === 'list' && list && (
        <label className="field">
          <span>As it is saved in</span>
          <select value={draft.edition ?? ''} onChange={(e) => setDraft({ ...draft, edition: e.target.value === '' ? null : Number(e.target.value) })}>
            <option value="">its latest edition, whichever that is</option>
            {Array.from({ length: list.edition }, (_, i) => list.edition - i).map((n) => (
              <option key={n} value={n}>
                edition {n}
              </option>
            ))}
          </select>
        </label>
      )}
      {draft.kind === 'round' && list && (
        <div className="grid grid-cols-2 gap-2">
          <label className="field">
            <span>Round</span>
            <select value={String(draft.which)} onChange={(e) => setDraft({ ...draft, which: e.target.value === 'any' || e.target.value === 'last' ? e.target.value : Number(e.target.value) })}>
              <option value="any">any round</option>
              <option value="last">the last round</option>
              {Array.from({ length: list.rounds }, (_, i) => list.rounds - i).map((n) => (
                <option key={n} value={n}>
                  round {n}
                </option>
              ))}
            </select>
          </label>
          <label className="field">
            <span>Where they stood</span>
            <select value={draft.stood} onChange={(e) => setDraft({ ...draft, stood: e.target.value as typeof draft.stood })}>
              <option value="listed">listed</option>
              <option value="clear">clear to contact</option>
              <option value="held back">held back</option>
            </select>
          </label>
        </div>
      )}
    </>
  )
}

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
            <input type="checkbox" checked={chosen.includes(way)} onChange={(e) => set(WAYS.filter((w) => (w === way ? e.target.checked : chosen.includes(w))))} /> {CHANNEL_NAME[way]}
          </label>
        ))}
      </span>
    </fieldset>
  )
}

function ContactedFields({ draft, setDraft, me }: { draft: Extract<Criterion, { kind: 'contacted' }>; setDraft: (next: Criterion) => void; me: Choices['me'] }) {
  const choose = (how: typeof draft.how) =>
    setDraft({ kind: 'contacted', how, by: draft.by, ...(draft.ways ? { ways: draft.ways } : {}), ...(how === 'within' ? { days: draft.days ?? 30 } : how === 'before' ? { date: draft.date ?? '' } : {}) })
  return (
    <fieldset className="grid gap-2">
      <legend className="quiet mb-1 font-semibold">When</legend>
      <label className="flex items-center gap-2">
        <input type="radio" name="how" checked={draft.how === 'never'} onChange={() => choose('never')} /> never contacted
      </label>
      <label className="flex items-center gap-2">
        <input type="radio" name="how" checked={draft.how === 'within'} onChange={() => choose('within')} /> contacted within
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
        <input type="radio" name="how" checked={draft.how === 'before'} onChange={() => choose('before')} /> last contacted before
        <input type="date" aria-label="Date" value={draft.how === 'before' ? (draft.date ?? '') : ''} onChange={(event) => setDraft({ ...draft, how: 'before', date: event.target.value, days: undefined })} />
      </label>
      <label className="field">
        <span>By</span>
        <select value={draft.by === null ? '' : draft.by.id} onChange={(event) => setDraft({ ...draft, by: event.target.value === '' ? null : event.target.value === me.id ? { id: me.id, name: me.name } : draft.by })}>
          <option value="">anyone</option>
          <option value={me.id}>me ({me.name})</option>
          {draft.by && draft.by.id !== me.id && <option value={draft.by.id}>{draft.by.name}</option>}
        </select>
      </label>
      <WaysField
        ways={draft.ways}
        onWays={(ways) => {
          const { ways: _, ...rest } = draft
          setDraft(ways ? { ...rest, ways } : rest)
        }}
      />
      <p className="quiet">Somebody never contacted answers no to the other two. To leave out those contacted lately and keep the rest, use a drop line.</p>
    </fieldset>
  )
}

function WordsField({ label, hint, words, onWords, rows = 4, children }: { label: string; hint?: string; words: string[]; onWords: (words: string[]) => void; rows?: number; children?: ReactNode }) {
  const [text, setText] = useState(words.join('\n'))
  const given = text.split('\n').map((word) => word.trim()).filter(Boolean)
  const shown = given.join('\n') === words.join('\n') ? text : words.join('\n')
  return (
    <div className="field">
      <label className="field">
        <span>{label}</span>
        <textarea
          rows={rows}
          value={shown}
          onChange={(event) => {
            setText(event.target.value)
            onWords(event.target.value.split('\n').map((word) => word.trim()).filter(Boolean))
          }}
        />
      </label>
      {hint && <p className="quiet">{hint}</p>}
      {children}
    </div>
  )
}

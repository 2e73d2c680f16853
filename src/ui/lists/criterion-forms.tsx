'use client'

import { type ReactNode, useState } from 'react'
import { FUNCTIONS, LEVELS } from '@/core/clean/role'
import { BAND_NAMES } from '@/core/criteria/head-count'
import { CRITERIA, type Criterion, formOf, type Question, validCriterion } from '@/core/criteria/registry'
import { type CriterionLine, type Line, subjectOf } from '@/core/lists/line'
import type { Subject } from '@/core/records/subject'
import { FACETS } from '@/core/facets/registry'
import { ChangedFields } from './changed-fields'
import { ContactedFields } from './contacted-fields'
import { CustomFields } from './custom-field-fields'
import { FactFields, Foretold, useValueCounts } from './fact-fields'
import { MoreFields } from './more-fields'
import { NamedListFields, OtherListFields } from './named-list-fields'
import { RoleFields } from './role-fields'
import { AnotherQuestion, TogetherFields } from './together-fields'
import { WhereFields } from './where-fields'
import { Boxes, Known, WordsField } from './field-parts'
import type { Choices, FormProps } from './form-props'
import { ADDRESS_NAME, CHANNELS } from '@/core/records/channels'
import { RELATIONS } from '@/core/records/relations'

/** The form behind a line's chips: each change counts at once when it is whole. */
export function CriterionForm({ line, before, choices, onChange, onDone }: FormProps<CriterionLine>) {
  const [draft, setDraft] = useState<Criterion>(line.criterion)
  const [told, setTold] = useState('')
  const subject = subjectOf(before)
  let whole: CriterionLine | null = null
  try {
    whole = { ...line, off: false, criterion: validCriterion(JSON.parse(JSON.stringify(draft))) }
  } catch {
    // Not whole yet; what is missing is told when it is said to be done.
  }
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
      <b>{CRITERIA[draft.kind].name}</b>
      {draft.kind === 'together' ? (
        <TogetherFields
          draft={draft}
          setDraft={setDraft}
          fields={(question, set) => (
            <Fields draft={question} setDraft={(next) => set(next as Question)} choices={choices} subject={subject} before={before} />
          )}
        />
      ) : (
        <Fields draft={draft} setDraft={setDraft} choices={choices} subject={subject} before={before} />
      )}
      <AnotherQuestion draft={draft} subject={subject} setDraft={setDraft} />
      <Foretold before={before} line={whole} />
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

function Fields({
  draft,
  setDraft,
  choices,
  subject,
  before,
}: {
  draft: Criterion
  setDraft: (next: Criterion) => void
  choices: Choices
  subject: Subject
  before: Line[]
}): ReactNode {
  const counts = useValueCounts(before, Object.hasOwn(FACETS[subject], draft.kind) ? draft.kind : null)
  const form = formOf(draft)
  if (form) return <FactFields form={form} draft={draft} setDraft={setDraft} choices={choices} counts={counts} />
  switch (draft.kind) {
    case 'role':
      return <RoleFields draft={draft} setDraft={setDraft} wordings={choices.wordings} />
    case 'street':
    case 'area':
    case 'near':
      return <WhereFields draft={draft} setDraft={setDraft} choices={choices} before={before} />
    case 'reachable':
    case 'contact-count':
    case 'interest':
    case 'equity':
    case 'holdings':
    case 'territory':
      return <MoreFields draft={draft} setDraft={setDraft} choices={choices} />
    case 'any-list':
    case 'related':
      return <OtherListFields draft={draft} setDraft={setDraft} lists={choices.lists} subject={subject} />
    case 'place':
      return (
        <>
          <WordsField label="Towns, one a line" words={draft.towns} onWords={(towns) => setDraft({ ...draft, towns })} rows={3}>
            <span className="mt-1 flex flex-wrap gap-1">
              <Known
                words={choices.words.towns}
                chosen={draft.towns}
                onChoose={(town) => setDraft({ ...draft, towns: [...draft.towns, town] })}
              />
            </span>
          </WordsField>
          <WordsField
            label="Or postcodes that begin with, one a line"
            words={draft.postcodes}
            onWords={(postcodes) => setDraft({ ...draft, postcodes })}
            rows={2}
          />
        </>
      )
    case 'reach':
      return (
        <label className="field">
          <span>Has a usable</span>
          <select
            autoFocus
            value={draft.channel}
            onChange={(event) => setDraft({ ...draft, channel: event.target.value as typeof draft.channel })}
          >
            {CHANNELS.map((channel) => (
              <option key={channel} value={channel}>
                {ADDRESS_NAME[channel]}
              </option>
            ))}
          </select>
        </label>
      )
    case 'relation':
      return (
        <Boxes
          legend="Relation to us is any of"
          all={RELATIONS}
          chosen={draft.any}
          onChoose={(any) => setDraft({ ...draft, any })}
          counts={counts}
        />
      )
    case 'level':
      return (
        <Boxes
          legend="The role’s level is any of"
          all={LEVELS}
          chosen={draft.any}
          onChoose={(any) => setDraft({ ...draft, any })}
          counts={counts}
          hint="A secretary to a head is not a head, and a deputy is a deputy. If the wording does not say, the level is unknown."
        />
      )
    case 'function':
      return (
        <Boxes
          legend="The role is about any of"
          all={FUNCTIONS}
          chosen={draft.any}
          onChoose={(any) => setDraft({ ...draft, any })}
          counts={counts}
          hint="If the wording does not say, the function is unknown."
        />
      )
    case 'changed':
    case 'org-changed':
    case 'premises-changed':
      return <ChangedFields draft={draft} setDraft={setDraft} rounds={choices.rounds} />
    case 'contacted':
      return <ContactedFields draft={draft} setDraft={setDraft} me={choices.me} team={choices.team} />
    case 'industry':
    case 'county':
    case 'tag': {
      const known =
        draft.kind === 'industry' ? choices.words.industries : draft.kind === 'county' ? choices.words.counties : choices.words.tags
      return (
        <WordsField
          label={`${WORD_LABEL[draft.kind]}, one a line`}
          words={draft.any}
          onWords={(any) => setDraft({ ...draft, any })}
          rows={3}
        >
          <span className="mt-1 flex flex-wrap gap-1">
            <Known
              words={known}
              chosen={draft.any}
              onChoose={(word) => setDraft({ ...draft, any: [...draft.any, word] })}
              counts={counts}
            />
          </span>
        </WordsField>
      )
    }
    case 'head-count':
      return (
        <Boxes
          legend="How many work at the organisation"
          all={BAND_NAMES}
          chosen={draft.any}
          onChoose={(any) => setDraft({ ...draft, any })}
          counts={counts}
        />
      )
    case 'custom':
      return <CustomFields draft={draft} setDraft={setDraft} customs={choices.customs} />
    case 'batch':
      return (
        <label className="field">
          <span>File they were in</span>
          <select
            autoFocus
            value={draft.batch.id || ''}
            onChange={(e) => setDraft({ ...draft, batch: choices.batches.find((b) => b.id === Number(e.target.value)) ?? draft.batch })}
          >
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
      return <NamedListFields draft={draft} setDraft={setDraft} lists={choices.lists} subject={subject} />
    default:
      return null
  }
}

const WORD_LABEL = { industry: 'Industries', county: 'Counties', tag: 'Tags' } as const

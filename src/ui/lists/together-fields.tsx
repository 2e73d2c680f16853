'use client'

import { X } from 'lucide-react'
import type { ReactNode } from 'react'
import { GROUPS } from '@/core/criteria/kind'
import { CRITERIA, type Criterion, type CriterionName, type CriterionOf, fits, type Question } from '@/core/criteria/registry'
import { MOST_TOGETHER } from '@/core/criteria/together'
import type { Subject } from '@/core/records/subject'
import { firstQuestion } from './line-editing'

type Together = CriterionOf<'together'>

/** Several questions in one line: how they are joined, and the form of each. */
export function TogetherFields({
  draft,
  setDraft,
  fields,
}: {
  draft: Together
  setDraft: (next: Criterion) => void
  /** The form of one question. */
  fields: (question: Question, set: (next: Question) => void) => ReactNode
}) {
  const put = (i: number, questions: Question[]) => {
    const parts = draft.parts.toSpliced(i, 1, ...questions)
    setDraft(parts.length === 1 && questions.length === 0 ? parts[0] : { ...draft, parts })
  }
  return (
    <>
      <label className="field">
        <span>A record matches if</span>
        <select value={draft.every ? 'all' : 'any'} onChange={(event) => setDraft({ ...draft, every: event.target.value === 'all' })}>
          <option value="all">all of these are true</option>
          <option value="any">any of these is true</option>
        </select>
      </label>
      <p className="quiet">
        {draft.every
          ? 'One “no” is enough not to match. If the rest is true and something is missing, the answer is unknown.'
          : 'One “yes” is enough to match. If nothing is true and something is missing, the answer is unknown.'}
      </p>
      {draft.parts.map((part, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: questions have no names, so after one is removed the others are drawn anew
        <fieldset key={`${i} of ${draft.parts.length}`} className="grid gap-2 border-l-2 border-rule pl-3">
          <legend className="sr-only">{`Question ${i + 1}: ${CRITERIA[part.kind].name}`}</legend>
          <span className="flex items-baseline justify-between">
            <b className="text-[13px]">
              {i > 0 && <span className="quiet font-normal">{draft.every ? 'and also ' : 'or else '}</span>}
              {CRITERIA[part.kind].name}
            </b>
            <button
              type="button"
              className="rounded p-1 text-soft hover:text-madder"
              aria-label={`Remove question ${i + 1}`}
              onClick={() => put(i, [])}
            >
              <X size={14} aria-hidden="true" />
            </button>
          </span>
          {fields(part, (next) => put(i, [next]))}
        </fieldset>
      ))}
    </>
  )
}

/** Adds another question to a line: what one line asks becomes several questions at once. */
export function AnotherQuestion({ draft, subject, setDraft }: { draft: Criterion; subject: Subject; setDraft: (next: Criterion) => void }) {
  const parts = draft.kind === 'together' ? draft.parts : [draft]
  if (parts.length >= MOST_TOGETHER) return <p className="quiet">A line asks at most {MOST_TOGETHER} questions.</p>
  const kinds = (Object.keys(CRITERIA) as CriterionName[]).filter((kind) => kind !== 'together' && fits(kind, subject))
  return (
    <label className="field">
      <span>{parts.length === 0 ? 'First question' : 'Another question in this line'}</span>
      <select
        value=""
        autoFocus={parts.length === 0}
        onChange={(event) => {
          const added = firstQuestion(event.target.value as CriterionName, subject) as Question
          setDraft({ kind: 'together', every: draft.kind === 'together' ? draft.every : true, parts: [...parts, added] })
        }}
      >
        <option value="">{parts.length === 0 ? 'choose a question' : 'none'}</option>
        {GROUPS.map((group) => (
          <optgroup key={group} label={group}>
            {kinds
              .filter((kind) => CRITERIA[kind].group === group)
              .map((kind) => (
                <option key={kind} value={kind}>
                  {CRITERIA[kind].name}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
    </label>
  )
}

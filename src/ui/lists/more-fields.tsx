'use client'

import { byOtherName } from '@/core/criteria/equity'
import { REACHES } from '@/core/criteria/reachable'
import type { Criterion, CriterionOf } from '@/core/criteria/registry'
import { ALL_RESULTS } from '@/core/records/results'
import { ByField, WaysField } from './contacted-fields'
import { Boxes } from './field-parts'
import type { Choices } from './form-props'
import { Ends } from './fact-fields'

type Draft =
  | CriterionOf<'reachable'>
  | CriterionOf<'contact-count'>
  | CriterionOf<'interest'>
  | CriterionOf<'equity'>
  | CriterionOf<'holdings'>
  | CriterionOf<'territory'>

/** Forms of criteria that ask more than one thing. */
export function MoreFields({ draft, setDraft, choices }: { draft: Draft; setDraft: (next: Criterion) => void; choices: Choices }) {
  switch (draft.kind) {
    case 'reachable':
      return (
        <>
          <label className="field">
            <span>Wanted</span>
            <select value={draft.wanted} onChange={(e) => setDraft({ ...draft, wanted: e.target.value === 'all' ? 'all' : 'any' })}>
              <option value="any">any of these ways is enough</option>
              <option value="all">all of these ways</option>
            </select>
          </label>
          <Boxes legend="Ways to reach them" all={REACHES} chosen={draft.ways} onChoose={(ways) => setDraft({ ...draft, ways })} />
          <Optional
            label="Email checked within so many days"
            value={draft.checkedWithin}
            onValue={(checkedWithin) => setDraft({ ...draft, checkedWithin })}
          />
        </>
      )
    case 'contact-count':
      return (
        <>
          <Ends label="How often" unit="times" least={draft.least} most={draft.most} onEnds={(ends) => setDraft({ ...draft, ...ends })} />
          <Optional label="Within so many days" value={draft.days} onValue={(days) => setDraft({ ...draft, days })} />
          <fieldset>
            <legend className="quiet mb-1 font-semibold">With any of these results (any result where none is chosen)</legend>
            <span className="flex flex-wrap gap-x-3 gap-y-1">
              {ALL_RESULTS.map((result) => (
                <label key={result} className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={draft.results.includes(result)}
                    onChange={(e) =>
                      setDraft({
                        ...draft,
                        results: ALL_RESULTS.filter((r) => (r === result ? e.target.checked : draft.results.includes(r))),
                      })
                    }
                  />{' '}
                  {result}
                </label>
              ))}
            </span>
          </fieldset>
          <ByField by={draft.by} onBy={(by) => setDraft({ ...draft, by })} me={choices.me} team={choices.team} />
          <WaysField ways={draft.ways} onWays={(ways) => setDraft({ ...draft, ...(ways ? { ways } : { ways: undefined }) })} />
        </>
      )
    case 'interest':
      return (
        <>
          <label className="field">
            <span>What counts</span>
            <select value={draft.sign} onChange={(e) => setDraft({ ...draft, sign: e.target.value === 'answer' ? 'answer' : 'interest' })}>
              <option value="interest">a sign of interest: opened, replied, spoke, meeting set</option>
              <option value="answer">an answer: replied, spoke, a yes or a no</option>
            </select>
          </label>
          <label className="field">
            <span>When it was last</span>
            <select
              value={draft.how}
              onChange={(e) =>
                setDraft({
                  ...draft,
                  how: e.target.value as typeof draft.how,
                  days: e.target.value === 'never' ? null : (draft.days ?? 180),
                })
              }
            >
              <option value="within">within so many days</option>
              <option value="longer ago">longer ago than so many days</option>
              <option value="never">never</option>
            </select>
          </label>
          {draft.how !== 'never' && <Optional label="Days" value={draft.days} onValue={(days) => setDraft({ ...draft, days })} />}
        </>
      )
    case 'equity': {
      const other = byOtherName(draft)
      return (
        <>
          <label className="field">
            <span>Asked as</span>
            <select value={draft.as} onChange={(e) => setDraft(e.target.value === draft.as ? draft : other)}>
              <option value="equity">equity</option>
              <option value="loan-to-value">loan-to-value</option>
            </select>
          </label>
          <Ends
            label={draft.as === 'equity' ? 'Equity' : 'Loan-to-value'}
            unit="%"
            least={draft.least}
            most={draft.most}
            onEnds={(ends) => setDraft({ ...draft, ...ends })}
            hint={`The same by its other name: ${other.as === 'equity' ? 'equity' : 'loan-to-value'} ${other.least === null ? '' : `${other.least} % or more`}${other.least !== null && other.most !== null ? ', ' : ''}${other.most === null ? '' : `${other.most} % or less`}`}
          />
        </>
      )
    }
    case 'territory': {
      const chosen = (id: number) => draft.territories.some((own) => own.id === id)
      // One that was removed stays in the lines that name it.
      const all = [...choices.territories, ...draft.territories.filter(({ id }) => !choices.territories.some((own) => own.id === id))]
      return all.length === 0 ? (
        <p className="quiet">There are no territories yet. Coordinators add them on the Team page.</p>
      ) : (
        <fieldset>
          <legend className="quiet mb-1 font-semibold">In any of these territories</legend>
          <span className="grid gap-1">
            {all.map(({ id, name }) => (
              <label key={id} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={chosen(id)}
                  onChange={(event) =>
                    setDraft({
                      ...draft,
                      territories: event.target.checked
                        ? [...draft.territories, { id, name }]
                        : draft.territories.filter((own) => own.id !== id),
                    })
                  }
                />
                {name}
              </label>
            ))}
          </span>
        </fieldset>
      )
    }
    case 'holdings':
      return (
        <>
          <Ends
            label="Premises of one owner"
            least={draft.least}
            most={draft.most}
            onEnds={(ends) => setDraft({ ...draft, ...ends })}
            hint="These premises count among them."
          />
          <Optional
            label="Only those taken over within so many months"
            value={draft.months}
            onValue={(months) => setDraft({ ...draft, months })}
          />
        </>
      )
  }
}

/** A whole number that may be left out. */
function Optional({ label, value, onValue }: { label: string; value: number | null; onValue: (value: number | null) => void }) {
  return (
    <label className="field">
      <span>{label}</span>
      <input type="number" min={1} value={value ?? ''} onChange={(e) => onValue(e.target.value === '' ? null : Number(e.target.value))} />
    </label>
  )
}

'use client'

import Link from 'next/link'
import { useEffect, useState, useTransition } from 'react'
import type { ContactRow, PersonRow, Refusal, SuppressionRow } from '@/core/clean/rows'
import type { Note } from '@/core/clean/notes'
import { type BatchKind, type FieldRules, FIELDS, fieldLabel, type Mapping, RULED } from '@/core/match/columns'
import type { Reading } from '@/core/match/reading'
import type { ActionResult, BatchAccount, BatchPreview } from '@/core/outputs/views'
import { ask, Told } from './ask'
import type { BringIn } from './batch-screen'
import { day } from './figures'
import { ReadingFields } from './reading-fields'
import { Spread } from './spread'
import { TrialAccount } from './trial-account'

type Stored = PersonRow | ContactRow | SuppressionRow | Refusal

const KIND_NAME: Record<BatchKind, string> = { people: 'people', contacts: 'contacts that were made', suppressions: 'suppressions' }

/** By what a column was taken to hold what it holds, the surest first. */
const GUESSED = { title: 'by its title', 'nearly its title': 'nearly by its title; look at it', values: 'by what stands in it; look at it' } as const

/** What each column holds, and the first rows as they will be stored. Nothing is in the directory yet. */
export function BatchMapping({
  batch,
  twin,
  bringIn,
  readAnew,
  tryOut,
  onBegun,
}: Pick<BatchAccount, 'batch' | 'twin'> & {
  bringIn: BringIn
  tryOut: (kind: BatchKind, mapping: Mapping, rules: FieldRules) => Promise<ActionResult<unknown>>
  readAnew: (reading: Partial<Reading>) => Promise<ActionResult<unknown>>
  onBegun: () => void
}) {
  const [asked, setAsked] = useState<{ kind: BatchKind; mapping?: Mapping }>({ kind: batch.kind, mapping: batch.mapping })
  const [preview, setPreview] = useState<BatchPreview | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const [register, setRegister] = useState<{ name: string; version: string } | null>(null)
  const [rules, setRules] = useState<FieldRules>(batch.options.rules ?? {})
  const [busy, begin] = useTransition()
  useEffect(() => {
    const abort = new AbortController()
    ask<BatchPreview>(`/api/batches/${batch.id}/preview`, asked, abort.signal).then(
      (got) => {
        setPreview(got)
        setTold(null)
      },
      (error) => !abort.signal.aborted && setTold(error instanceof Told ? error.message : 'The rows could not be shown.'),
    )
    return () => abort.abort()
  }, [batch.id, asked])
  const mapping = preview?.batch.mapping ?? batch.mapping
  const kind = asked.kind
  // A trial of another mapping says nothing about this one.
  const trial = batch.trial?.of === JSON.stringify([kind, mapping, RULED.filter((field) => rules[field])]) ? batch.trial : null
  return (
    <Spread
      width="500px"
      label={{ left: 'The columns', right: 'The first rows' }}
      left={
        <>
          <h1 className="break-words">{batch.file_name}</h1>
          <ReadingFields reading={batch.reading} choices={batch.choices} read={readAnew} onTold={setTold} />
          {twin && (
            <p role="status" className="said mt-3">
              This very file came in on {day(twin.at)}, as <Link href={`/intake/${twin.id}`}>{twin.name}</Link>. Its rows would only be
              matched against themselves.
            </p>
          )}
          <label className="field mt-4">
            <span>This file holds</span>
            <select value={kind} onChange={(event) => setAsked({ kind: event.target.value as BatchKind })}>
              {(Object.keys(FIELDS) as BatchKind[]).map((name) => (
                <option key={name} value={name}>
                  {KIND_NAME[name]}
                </option>
              ))}
            </select>
          </label>
          {kind === 'suppressions' && <RegisterFields register={register} onRegister={setRegister} />}
          <table className="account mt-4" aria-label="Columns of the file">
            <thead>
              <tr>
                <th scope="col">Column of the file</th>
                <th scope="col">Holds</th>
              </tr>
            </thead>
            <tbody>
              {batch.header.map((title, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: columns have no other identity; two may share a title
                <tr key={i}>
                  <td className="break-words">
                    {title || <span className="text-soft">column {i + 1}, without a title</span>}
                    <span className="quiet block">{preview?.rows.map((r) => r.raw[i]).find((cell) => cell?.trim()) ?? ''}</span>
                  </td>
                  <td>
                    <select
                      aria-label={`${title || `Column ${i + 1}`} holds`}
                      value={mapping[i] ?? ''}
                      onChange={(event) =>
                        setAsked({ kind, mapping: mapping.map((field, j) => (j === i ? event.target.value || null : field)) })
                      }
                    >
                      <option value="">not used, kept with the row</option>
                      {FIELDS[kind].map(([field, name]) => (
                        <option key={field} value={field}>
                          {name}
                        </option>
                      ))}
                    </select>
                    {preview?.guesses[i] && preview.guesses[i]?.field === mapping[i] && <span className="quiet block">{GUESSED[preview.guesses[i].by]}</span>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {kind === 'people' && <RuleFields rules={rules} onRules={setRules} />}
          {(told ?? preview?.lacks) && (
            <p role="alert" className="told mt-3">
              {told ?? `Before it can be brought in: ${preview?.lacks}.`}
            </p>
          )}
          <div className="mt-4 flex flex-wrap gap-2">
            <button
              type="button"
              className="button button-main"
              disabled={busy || !preview || preview.lacks !== null}
              onClick={() =>
                begin(async () => {
                  const result = await bringIn(batch.id, kind, mapping, {
                    ...(kind === 'suppressions' && register ? { register } : {}),
                    ...(twin ? { again: true } : {}),
                    ...(kind === 'people' ? { rules } : {}),
                  })
                  if (result.ok) onBegun()
                  else setTold(result.error)
                })
              }
            >
              {twin ? 'Bring it in once more' : 'Bring it in'}
            </button>
            <button
              type="button"
              className="button"
              disabled={busy || !preview || preview.lacks !== null || trial?.state === 'running'}
              onClick={() =>
                begin(async () => {
                  const result = await tryOut(kind, mapping, kind === 'people' ? rules : {})
                  setTold(result.ok ? null : result.error)
                })
              }
            >
              {trial?.state === 'running' ? 'It is being tried' : 'Try it first'}
            </button>
          </div>
          <p className="quiet mt-2">Trying it tells what would become of every row, and stores nothing.</p>
        </>
      }
      right={
        <>
          {trial && <TrialAccount trial={trial} />}
          <h2>The first rows, as they will be stored</h2>
          <ul className="mt-2">
            {preview?.rows.map((row, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows of a file are known by their place
              <li key={i} className="border-b border-rule py-2">
                <StoredRow stored={row.stored} />
              </li>
            ))}
          </ul>
        </>
      }
    />
  )
}

/** What a row may do to somebody known whose value is another: it is newer and wins, or it only fills what is blank. */
function RuleFields({ rules, onRules }: { rules: FieldRules; onRules: (rules: FieldRules) => void }) {
  const blanks = RULED.filter((field) => rules[field])
  return (
    <details className="mt-4">
      <summary className="cursor-pointer font-semibold text-verdigris">
        Where a known record says otherwise: {blanks.length === 0 ? 'the file wins' : `ours stays for ${blanks.join(', ')}`}
      </summary>
      <fieldset className="mt-2 grid grid-cols-2 gap-1.5 rounded-lg border border-rule p-3">
        <legend className="quiet">Only fill what is blank</legend>
        {RULED.map((field) => (
          <label key={field} className="flex items-center gap-2">
            <input type="checkbox" checked={rules[field] === 'blanks'} onChange={(event) => onRules({ ...Object.fromEntries(Object.entries(rules).filter(([other]) => other !== field)), ...(event.target.checked ? { [field]: 'blanks' } : {}) })} />
            {field}
          </label>
        ))}
      </fieldset>
    </details>
  )
}

function RegisterFields({
  register,
  onRegister,
}: {
  register: { name: string; version: string } | null
  onRegister: (r: { name: string; version: string } | null) => void
}) {
  return (
    <fieldset className="mt-3 grid gap-2">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={register !== null}
          onChange={(e) => onRegister(e.target.checked ? { name: 'Do-not-call register', version: '' } : null)}
        />{' '}
        it is a copy of a do-not-call register
      </label>
      {register && (
        <div className="grid grid-cols-2 gap-2">
          <label className="field">
            <span>Name of the register</span>
            <input value={register.name} onChange={(e) => onRegister({ ...register, name: e.target.value })} />
          </label>
          <label className="field">
            <span>The file is of</span>
            <input type="date" value={register.version} onChange={(e) => onRegister({ ...register, version: e.target.value })} />
          </label>
        </div>
      )}
    </fieldset>
  )
}

/** What is doubtful about a row, and, one press away, what was done to its values and how they came. */
function Notes({ notes }: { notes: Note[] }) {
  const done = notes.filter((note) => !note.doubt)
  const fields = [...new Set(done.map((note) => fieldLabel('people', note.field).toLowerCase()))]
  return (
    <>
      {notes
        .filter((note) => note.doubt)
        .map((note) => (
          <span key={`${note.field} ${note.what}`} className="block text-[0.8125rem] break-words text-ochre">
            {note.what}
          </span>
        ))}
      {done.length > 0 && (
        <details className="text-[0.8125rem] text-soft">
          <summary className="cursor-pointer py-0.5">cleaned: {fields.join(', ')}</summary>
          <ul className="pl-4">
            {done.map((note) => (
              <li key={`${note.field} ${note.what} ${note.raw}`} className="break-words">
                {fieldLabel('people', note.field)}: {note.what}, came as <q className="whitespace-pre-wrap">{note.raw.trim()}</q>
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  )
}

function StoredRow({ stored }: { stored: Stored }) {
  if ('refused' in stored) return <span className="text-madder">Refused: {stored.refused}</span>
  if ('emails' in stored)
    return (
      <>
        <b>{stored.name.name}</b> <span className="text-soft">{[stored.role, stored.organisation].filter(Boolean).join(', ')}</span>
        <span className="quiet block">
          {[
            ...[...stored.emails, ...stored.phones].map((a) => a.value),
            [stored.postal.street, stored.postal.town, stored.county, stored.postal.postcode].filter(Boolean).join(', '),
            stored.headCount !== null && `${stored.headCount} work there`,
            stored.relation,
            stored.tags.join(', '),
            stored.outsideId && `id ${stored.outsideId}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
        <Notes notes={stored.notes} />
      </>
    )
  const who = [
    'domain' in stored && stored.domain && `@${stored.domain}`,
    'postal' in stored && stored.postal && [stored.postal.street, stored.postal.town, stored.postal.postcode].filter(Boolean).join(', '),
    'organisation' in stored && stored.organisation,
    stored.name?.name,
    stored.email,
    stored.phone,
    stored.outsideId && `id ${stored.outsideId}`,
  ]
    .filter(Boolean)
    .join(' · ')
  return (
    <>
      <b>{who}</b>
      <span className="quiet block">
        {'date' in stored
          ? [stored.date, stored.channel, stored.result, stored.note].filter(Boolean).join(' · ')
          : [
              stored.reason,
              stored.channels.join(', '),
              stored.since && `since ${stored.since}`,
              stored.until && `until ${stored.until}`,
              stored.word,
            ]
              .filter(Boolean)
              .join(' · ')}
      </span>
    </>
  )
}

'use client'

import Link from 'next/link'
import { useState, useTransition } from 'react'
import { type BatchKind, type FieldRules, FIELDS, RULED } from '@/core/match/columns'
import { trialOf } from '@/core/match/how-mapped'
import type { BatchAccount, BatchPreview } from '@/core/views/intake-views'
import { useAsked } from '@/ui/book/asking'
import type { MappingActions } from './batch-actions'
import { day } from '@/ui/book/figures'
import { type Mapped, MappingColumns } from './mapping-columns'
import { ReadingFields } from './reading-fields'
import { SavedMappings } from './saved-mappings'
import { Spread } from '@/ui/book/spread'
import { TrialAccount } from './trial-account'
import { StoredRow } from './stored-row'

const KIND_NAME: Record<BatchKind, string> = {
  people: 'people',
  premises: 'premises',
  contacts: 'contacts that were made',
  suppressions: 'suppressions',
}

/** What each column holds, and the first rows as they will be stored. Nothing is in the directory yet. */
export function BatchMapping({
  batch,
  twin,
  actions,
  onBegun,
}: Pick<BatchAccount, 'batch' | 'twin'> & { actions: MappingActions; onBegun: () => void }) {
  const [asked, setAsked] = useState<Partial<Mapped>>({ kind: batch.kind, mapping: batch.mapping, shaping: batch.shaping })
  const [notDone, setTold] = useState<string | null>(null)
  const [register, setRegister] = useState<{ name: string; version: string } | null>(null)
  const [rules, setRules] = useState<FieldRules>(batch.options.rules ?? {})
  const [byKeysAlone, setByKeysAlone] = useState(batch.options.byKeysAlone ?? false)
  const [busy, begin] = useTransition()
  const { answer: preview = null, told: notShown } = useAsked<BatchPreview>([`/api/batches/${batch.id}/preview`, asked], {
    hold: true,
    failed: 'The rows could not be shown.',
  })
  const told = notDone ?? notShown
  const kind = asked.kind ?? batch.kind
  const how: Mapped = {
    kind,
    mapping: asked.mapping ?? preview?.batch.mapping ?? batch.mapping,
    shaping: asked.shaping ?? preview?.batch.shaping ?? batch.shaping,
  }
  const matching = kind === 'people' ? { rules, ...(byKeysAlone ? { byKeysAlone: true as const } : {}) } : {}
  // What is shown belongs to what was asked before until its answer is there.
  const shown = preview?.header.length === how.mapping.length ? preview : null
  // A trial of another mapping says nothing about this one.
  const trial = batch.trial?.of === trialOf(how, matching) ? batch.trial : null
  return (
    <Spread
      width="500px"
      label={{ left: 'The columns', right: 'The first rows' }}
      left={
        <>
          <h1 className="break-words">{batch.file_name}</h1>
          <ReadingFields
            reading={batch.reading}
            choices={batch.choices}
            read={(reading) => actions.readAnew(batch.id, reading)}
            onTold={setTold}
          />
          {twin && (
            <p role="status" className="said mt-3">
              This very file came in on {day(twin.at)}, as <Link href={`/intake/${twin.id}`}>{twin.name}</Link>. Its rows would only be
              matched against themselves.
            </p>
          )}
          <label className="field mt-4">
            <span>This file holds</span>
            <select value={kind} onChange={(event) => setAsked({ kind: event.target.value as BatchKind, shaping: asked.shaping })}>
              {(Object.keys(FIELDS) as BatchKind[]).map((name) => (
                <option key={name} value={name}>
                  {KIND_NAME[name]}
                </option>
              ))}
            </select>
          </label>
          {kind === 'suppressions' && <RegisterFields register={register} onRegister={setRegister} />}
          {shown && <MappingColumns preview={shown} how={how} onHow={setAsked} declare={actions.declare} />}
          <SavedMappings batch={batch.id} how={how} onHow={setAsked} actions={actions} onTold={setTold} />
          {kind === 'people' && <RuleFields rules={rules} onRules={setRules} />}
          {kind === 'people' && (
            <label className="mt-3 flex items-start gap-2">
              <input
                type="checkbox"
                className="mt-1 shrink-0"
                checked={!byKeysAlone}
                onChange={(event) => setByKeysAlone(!event.target.checked)}
              />
              <span>
                Match similar people too
                <span className="quiet block">
                  Also matches typing errors, nicknames and changed names. Likely matches wait for your decision. Without it only exact
                  matches count.
                </span>
              </span>
            </label>
          )}
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
                  const result = await actions.bringIn(batch.id, how, {
                    ...(kind === 'suppressions' && register ? { register } : {}),
                    ...(twin ? { again: true } : {}),
                    ...matching,
                  })
                  if (result.ok) onBegun()
                  else setTold(result.error)
                })
              }
            >
              {twin ? 'Import file again' : 'Import file'}
            </button>
            <button
              type="button"
              className="button"
              disabled={busy || !preview || preview.lacks !== null || trial?.state === 'running'}
              onClick={() =>
                begin(async () => {
                  const result = await actions.tryOut(batch.id, how, matching)
                  setTold(result.ok ? null : result.error)
                })
              }
            >
              {trial?.state === 'running' ? 'Trying the import' : 'Try import first'}
            </button>
          </div>
          {kind === 'people' && (
            <p className="quiet mt-2">
              Only email addresses in it? <Link href={`/intake/enquiries/new?batch=${batch.id}`}>Fill its gaps from a source first</Link>.
            </p>
          )}
          <p className="quiet mt-2">A trial shows what would happen to every row and stores nothing.</p>
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

const RULE_NAME = { wins: 'use the file', blanks: 'keep ours', ask: 'ask' } as const

/** What a row may do to somebody known whose value is another: it is newer and wins, it only fills what is blank, or it asks. */
function RuleFields({ rules, onRules }: { rules: FieldRules; onRules: (rules: FieldRules) => void }) {
  const of = (rule: 'blanks' | 'ask') => RULED.filter((field) => rules[field] === rule)
  const said = [
    of('blanks').length > 0 && `keep ours for ${of('blanks').join(', ')}`,
    of('ask').length > 0 && `you are asked about ${of('ask').join(', ')}`,
  ]
    .filter(Boolean)
    .join('; ')
  return (
    <details className="mt-4">
      <summary className="cursor-pointer font-semibold text-verdigris">
        If the file disagrees with a known record: {said || 'use the file'}
      </summary>
      <fieldset className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2 rounded-lg border border-rule p-3">
        <legend className="quiet">Blank fields are always filled; an empty cell changes nothing</legend>
        {RULED.map((field) => (
          <label key={field} className="field">
            <span>{field}</span>
            <select
              value={rules[field] ?? 'wins'}
              onChange={(event) => {
                const { [field]: _, ...others } = rules
                const rule = event.target.value as keyof typeof RULE_NAME
                onRules(rule === 'wins' ? others : { ...others, [field]: rule })
              }}
            >
              {Object.entries(RULE_NAME).map(([rule, name]) => (
                <option key={rule} value={rule}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        ))}
      </fieldset>
      {of('ask').length > 0 && <p className="quiet mt-1">A row that would change one of these waits until somebody decides.</p>}
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
        this file is a copy of a do-not-call register
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

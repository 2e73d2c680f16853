'use client'

import { ArrowDown, ArrowUp } from 'lucide-react'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { DropdownMenu } from 'radix-ui'
import { useState, useTransition } from 'react'
import { newRule } from '@/core/screening/new-rule'
import { inStages, isOfSet, RULES, type Rule, type RuleName, ruleKind } from '@/core/screening/rules'
import { withPreset } from '@/core/screening/presets'
import { ruleDifferences } from '@/core/screening/differences'
import type { ActionResult } from '@/core/views/action-result'
import type { PolicyPage } from '@/core/views/policy-views'
import { Spread } from '@/ui/book/spread'
import { PolicyEditions } from './policy-editions'
import { PresetMenu } from './preset-menu'
import { PolicyTrialSide } from './policy-trial'
import { RuleSentence } from './rule-sentence'

export interface PolicyActions {
  save: (id: number, basedOn: number, rules: unknown, why: string) => Promise<ActionResult<number>>
  rename: (id: number, name: string) => Promise<ActionResult<unknown>>
  makeDefault: (id: number) => Promise<ActionResult<unknown>>
  archive: (id: number, archived: boolean) => Promise<ActionResult<unknown>>
}

/** A policy: its rules on the left, to be changed and saved as an edition; its editions and what a change would do on the right. */
export function PolicyScreen({ policy, actions }: { policy: PolicyPage; actions: PolicyActions | null }) {
  const router = useRouter()
  const [newest] = policy.editions
  const [rules, setRules] = useState(newest.rules)
  const [why, setWhy] = useState('')
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  const editable = actions !== null && policy.mayEdit
  const differences = ruleDifferences(newest.rules, rules)
  const dirty = differences.length > 0
  const run = (work: () => Promise<ActionResult<unknown>>) =>
    begin(async () => {
      const result = await work()
      setTold(result.ok ? '' : result.error)
      router.refresh()
    })
  const change = (id: string, next: Rule) => setRules((before) => before.map((rule) => (rule.id === id ? next : rule)))
  const move = (i: number, by: number) =>
    setRules((before) => {
      const next = [...before]
      const [rule] = next.splice(i, 1)
      next.splice(i + by, 0, rule)
      return inStages(next)
    })
  const offered = (Object.entries(RULES) as [RuleName, (typeof RULES)[RuleName]][]).filter(([, kind]) => kind.optional)
  return (
    <Spread
      width="620px"
      label={{ left: 'The rules', right: 'Editions and effect' }}
      left={
        <>
          <p className="quiet">
            <Link href="/screening">Screening</Link> · <Link href="/screening/policies">Policies</Link>
          </p>
          <h1 className="break-words">{policy.name}</h1>
          <p className="quiet">
            {policy.isDefault ? 'The team’s policy, for lists that chose none' : 'For lists that chose it'} · edition {newest.number}
            {policy.archived && ' · archived'}
          </p>
          <table className="account mt-4" aria-label="Rules">
            <thead>
              <tr>
                <th scope="col">Rule</th>
                {editable && (
                  <th scope="col" className="w-[64px]">
                    <span className="sr-only">Order</span>
                  </th>
                )}
              </tr>
            </thead>
            <tbody>
              {rules.map((rule, i) => (
                <tr key={rule.id} data-testid={`rule-${rule.id}`}>
                  <td>
                    <RuleSentence
                      rule={rule}
                      note={ruleKind(rule).note(withFile(rule, policy.register), policy.moment)}
                      editable={editable}
                      onChange={(next) => change(rule.id, next)}
                    >
                      {editable && ruleKind(rule).optional && (
                        <button
                          type="button"
                          className="mr-2 font-semibold text-verdigris hover:underline"
                          onClick={() => setRules(rules.filter((own) => own.id !== rule.id))}
                        >
                          Remove
                        </button>
                      )}
                    </RuleSentence>
                  </td>
                  {editable && (
                    <td>
                      {i > 0 && (
                        <span className="flex justify-end gap-1">
                          <Move label={`Move ${ruleKind(rule).name} up`} disabled={!mayMove(rules, i, -1)} onMove={() => move(i, -1)}>
                            <ArrowUp size={15} aria-hidden="true" />
                          </Move>
                          <Move label={`Move ${ruleKind(rule).name} down`} disabled={!mayMove(rules, i, 1)} onMove={() => move(i, 1)}>
                            <ArrowDown size={15} aria-hidden="true" />
                          </Move>
                        </span>
                      )}
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
          <p className="quiet mt-2">
            The order says which rule a held-back person is counted under, never who is held back. Rules about several people of one set
            come last: they look at who is left. What the law or the person themselves asks for cannot be removed.
          </p>
          {editable && (
            <div className="mt-4 flex flex-wrap items-center gap-3">
              <DropdownMenu.Root>
                <DropdownMenu.Trigger className="button">Add rule ▾</DropdownMenu.Trigger>
                <DropdownMenu.Portal>
                  <DropdownMenu.Content className="floating w-[340px] p-1.5!" align="start" sideOffset={4}>
                    {offered.map(([name, kind]) => (
                      <DropdownMenu.Item
                        key={name}
                        className="menu-item"
                        onSelect={() => setRules((before) => inStages([...before, newRule(name, before)]))}
                      >
                        <span>
                          <b>{kind.name}</b>
                          <span className="quiet block">{kind.about}</span>
                        </span>
                      </DropdownMenu.Item>
                    ))}
                  </DropdownMenu.Content>
                </DropdownMenu.Portal>
              </DropdownMenu.Root>
              <PresetMenu rules={rules} onAdd={(preset) => setRules((before) => inStages(withPreset(before, preset)))} />
              {dirty && (
                <>
                  <button type="button" className="button" onClick={() => setRules(newest.rules)}>
                    Discard changes
                  </button>
                  <button
                    type="button"
                    className="button button-main"
                    disabled={busy}
                    onClick={() => run(() => (actions as PolicyActions).save(policy.id, newest.number, rules, why))}
                  >
                    Save edition {newest.number + 1}
                  </button>
                  <input
                    aria-label="Reason for the new edition"
                    placeholder="reason"
                    value={why}
                    maxLength={400}
                    className="w-[170px]"
                    onChange={(event) => setWhy(event.target.value)}
                  />
                </>
              )}
            </div>
          )}
          {told && (
            <p role="alert" className="told mt-3">
              {told}
            </p>
          )}
          {actions && !dirty && <Manage policy={policy} actions={actions} busy={busy} run={run} />}
        </>
      }
      right={
        <>
          <PolicyTrialSide policy={policy} rules={rules} dirty={dirty} />
          <PolicyEditions policy={policy} />
        </>
      }
    />
  )
}

/** A rule with the register file that is in, where it goes by one. */
const withFile = (rule: Rule, file: PolicyPage['register']): Rule =>
  rule.kind === 'register' ? { ...rule, ...file } : rule.kind === 'register-age' ? { ...rule, version: file.version } : rule

/** Whether a rule may change places with the one before or after it: the first stays first, and rules about a set come last. */
const mayMove = (rules: readonly Rule[], i: number, by: number): boolean =>
  i + by > 0 && i + by < rules.length && isOfSet(rules[i]) === isOfSet(rules[i + by])

function Move({ label, disabled, onMove, children }: { label: string; disabled: boolean; onMove: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      className="rounded p-1 text-soft hover:text-ink disabled:opacity-30"
      aria-label={label}
      disabled={disabled}
      onClick={onMove}
    >
      {children}
    </button>
  )
}

/** What can be done with a policy as a whole. */
function Manage({
  policy,
  actions,
  busy,
  run,
}: {
  policy: PolicyPage
  actions: PolicyActions
  busy: boolean
  run: (work: () => Promise<ActionResult<unknown>>) => void
}) {
  return (
    <div className="mt-6 flex flex-wrap items-end gap-3 border-t border-rule pt-4">
      {!policy.archived && (
        <form
          className="flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            const name = String(new FormData(event.currentTarget).get('name') ?? '')
            run(() => actions.rename(policy.id, name))
          }}
        >
          <label className="field">
            <span>Name</span>
            <input name="name" defaultValue={policy.name} required maxLength={120} className="w-[220px]" />
          </label>
          <button type="submit" className="button" disabled={busy}>
            Rename policy
          </button>
        </form>
      )}
      {!policy.isDefault && !policy.archived && (
        <button type="button" className="button" disabled={busy} onClick={() => run(() => actions.makeDefault(policy.id))}>
          Make it the team’s policy
        </button>
      )}
      {!policy.isDefault && (
        <button type="button" className="button" disabled={busy} onClick={() => run(() => actions.archive(policy.id, !policy.archived))}>
          {policy.archived ? 'Bring back' : 'Archive policy'}
        </button>
      )}
    </div>
  )
}

'use client'

import { useState } from 'react'
import type { Rule } from '@/core/screening/rules'
import type { PolicyPage, PolicyTrial } from '@/core/views/policy-views'
import { ask } from '@/ui/book/ask'
import { count } from '@/ui/book/figures'
import { TabRow } from '@/ui/book/tab-row'
import { RecordTable } from '@/ui/tables/record-table'
import { recordsOf, useRecords } from '@/ui/tables/use-records'

/** What rules that are being changed, or an earlier edition, would make of a list: who comes out differently. */
export function PolicyTrialSide({ policy, rules, dirty }: { policy: PolicyPage; rules: Rule[]; dirty: boolean }) {
  const [newest, ...older] = policy.editions
  const [list, setList] = useState<number | null>(null)
  const [against, setAgainst] = useState(older[0]?.number ?? newest.number)
  const [tab, setTab] = useState<'held' | 'freed'>('held')
  const before = dirty ? newest.rules : (policy.editions.find((edition) => edition.number === against)?.rules ?? newest.rules)
  const records = useRecords<PolicyTrial>(
    ['policy', list, before, rules, tab],
    list === null
      ? null
      : async (offset, signal) => {
          const got = await ask<PolicyTrial>(`/api/policies/try/${list}`, { before, after: rules, tab, offset }, signal)
          return { ...recordsOf(got.page), about: got }
        },
  )
  const got = list === null ? undefined : records.about
  return (
    <section aria-label="What it would change">
      <div className="flex flex-wrap items-end gap-3">
        <label className="field">
          <span>{dirty ? 'See what the changes would do to' : 'Compare two editions on'}</span>
          <select value={list ?? ''} onChange={(event) => setList(event.target.value === '' ? null : Number(event.target.value))}>
            <option value="">a list …</option>
            {policy.tryOn.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        {!dirty && older.length > 0 && (
          <label className="field">
            <span>From edition</span>
            <select value={against} onChange={(event) => setAgainst(Number(event.target.value))}>
              {older.map(({ number }) => (
                <option key={number}>{number}</option>
              ))}
            </select>
          </label>
        )}
      </div>
      {list !== null && (
        <>
          <p className="mt-3" role="status" data-testid="trial">
            {got
              ? `Clear to contact: ${count(got.clear.before)} ${dirty ? 'now' : `by edition ${against}`}, ${count(got.clear.after)} ${dirty ? 'with the changes' : `by edition ${newest.number}`}.`
              : 'Counting …'}
          </p>
          <TabRow
            label="Tabs of people"
            open={tab}
            onOpen={(key) => setTab(key as typeof tab)}
            tabs={[
              { key: 'held', title: 'Newly held back', total: got?.held ?? null },
              { key: 'freed', title: 'Newly clear', total: got?.freed ?? null },
            ]}
          />
          <RecordTable
            subject="person"
            records={records}
            because={tab === 'held' ? 'Would be held back because' : 'Was held back because'}
            empty={tab === 'held' ? 'Nobody more is held back.' : 'Nobody more is clear.'}
          />
        </>
      )}
    </section>
  )
}

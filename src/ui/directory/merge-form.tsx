'use client'

import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { MergeAccount } from '@/core/views/record-views'
import { ask, Told } from '@/ui/book/ask'
import { count } from '@/ui/book/figures'
import { FindPerson } from './find-person'

/** Merges another record into this one: find it, see what would be taken over and what stays, then merge. */
export function MergeForm({
  keep,
  name,
  merge,
}: {
  keep: number
  name: string
  merge: (keep: number, other: number) => Promise<ActionResult<unknown>>
}) {
  const router = useRouter()
  const [account, setAccount] = useState<MergeAccount | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const choose = (other: number) =>
    ask<MergeAccount>('/api/merge', { keep, merge: other })
      .then(setAccount)
      .catch((error) => setTold(error instanceof Told ? error.message : 'The two records could not be compared.'))
  return (
    <details>
      <summary className="cursor-pointer font-semibold text-verdigris">Merge another record into this one</summary>
      <div className="mt-2 grid gap-2.5 rounded-lg border border-rule bg-leaf p-3">
        {!account && (
          <FindPerson
            label="Find the other record by name, organisation, email or phone"
            but={keep}
            onChoose={(other) => void choose(other.id)}
          />
        )}
        {account && (
          <>
            <p>
              <b>{account.merge.name}</b> goes into <b>{name}</b>, with {count(account.entries)}{' '}
              {account.entries === 1 ? 'entry' : 'entries'} of the ledger, {count(account.contacts)} of them contacts. Frozen rounds keep
              both.
            </p>
            <dl className="grid grid-cols-[110px_1fr] gap-x-3 gap-y-1">
              {account.takenOver.map(({ field, value }) => (
                <div key={`${field}-${value}`} className="contents">
                  <dt className="text-verdigris">{field}</dt>
                  <dd className="break-words">{value} is taken over</dd>
                </div>
              ))}
              {account.stays.map(({ field, kept, other }) => (
                <div key={field} className="contents">
                  <dt className="text-ochre">{field}</dt>
                  <dd className="break-words">
                    {kept} stays <span className="quiet">instead of {other}</span>
                  </dd>
                </div>
              ))}
            </dl>
            <div className="flex gap-2">
              <button
                type="button"
                className="button button-main"
                disabled={busy}
                onClick={() =>
                  begin(async () => {
                    const result = await merge(keep, account.merge.id)
                    if (!result.ok) return setTold(result.error)
                    setAccount(null)
                    router.refresh()
                  })
                }
              >
                Merge the two
              </button>
              <button type="button" className="button" onClick={() => setAccount(null)}>
                Another record
              </button>
            </div>
          </>
        )}
        {told && (
          <p role="alert" className="told">
            {told}
          </p>
        )}
      </div>
    </details>
  )
}

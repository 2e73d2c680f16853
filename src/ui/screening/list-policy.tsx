'use client'

import Link from 'next/link'
import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import type { ActionResult } from '@/core/views/action-result'
import type { PolicySummary } from '@/core/views/policy-views'

/** The policy a list is screened by from its next round on; `choose` is absent where this person may not. */
export function ListPolicy({
  list,
  policy,
  policies,
  choose,
}: {
  list: number
  policy: number | null
  policies: Pick<PolicySummary, 'id' | 'name' | 'isDefault'>[]
  choose: ((list: number, policy: number | null) => Promise<ActionResult<unknown>>) | null
}) {
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  const current = policies.find((own) => (policy === null ? own.isDefault : own.id === policy))
  if (!current) return null
  return (
    <p className="quiet mt-1 flex flex-wrap items-center gap-1.5">
      <span>
        Screened by{' '}
        <Link prefetch={false} href={`/screening/policies/${current.id}`}>
          {current.name}
        </Link>
      </span>
      {choose && policies.length > 1 && (
        <select
          aria-label="Policy of this list"
          className="py-0! text-[13px]"
          disabled={busy}
          value={policy ?? ''}
          onChange={(event) => {
            const next = event.target.value === '' ? null : Number(event.target.value)
            const to = (wanted: number | null, undo: boolean) =>
              begin(async () => {
                const done = await choose(list, wanted)
                setTold(done.ok ? '' : done.error)
                const name = policies.find((own) => (wanted === null ? own.isDefault : own.id === wanted))?.name
                if (done.ok)
                  toast.success(`The next round is screened by ${name}.`, {
                    ...(undo ? { action: { label: 'Undo', onClick: () => to(policy, false) } } : {}),
                  })
              })
            to(next, true)
          }}
        >
          <option value="">the team’s policy</option>
          {policies.map((own) => (
            <option key={own.id} value={own.id}>
              {own.name}
            </option>
          ))}
        </select>
      )}
      {told && <span role="alert">{told}</span>}
    </p>
  )
}

'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { PolicySummary } from '@/core/views/policy-views'
import { count, day } from '@/ui/book/figures'

/** The team's policies: what lists are screened by. */
export function PolicyIndex({
  policies,
  make,
}: {
  policies: PolicySummary[]
  make: ((name: string, like: number) => Promise<ActionResult<number>>) | null
}) {
  const router = useRouter()
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  return (
    <main className="leaf leaf-whole bg-leaf" style={{ height: 'calc(100dvh - 53px)' }}>
      <div className="mx-auto max-w-[980px]">
        <p className="quiet">
          <Link href="/screening">Screening</Link>
        </p>
        <h1>Policies</h1>
        <p className="quiet">
          A policy is a set of rules that says who is held back. Each list goes by one; a round freezes the edition it used.
        </p>
        <table className="people mt-4" aria-label="Policies">
          <thead>
            <tr>
              <th scope="col" className="w-[30%]">
                Policy
              </th>
              <th scope="col">Rules</th>
              <th scope="col" className="w-[11%] text-right!">
                Lists
              </th>
              <th scope="col" className="w-[22%] pl-8!">
                Newest edition
              </th>
            </tr>
          </thead>
          <tbody>
            {policies.map((policy) => (
              <tr key={policy.id}>
                <td>
                  <Link href={`/screening/policies/${policy.id}`} className="text-[14px] font-semibold no-underline hover:underline">
                    {policy.name}
                  </Link>
                  {policy.isDefault && <span className="quiet block">The team’s policy, used by every list that chose no other</span>}
                </td>
                <td className="quiet">{policy.rules.join(' · ')}</td>
                <td className="figure">{count(policy.lists)}</td>
                <td className="pl-8!">
                  Edition {policy.edition}
                  <span className="quiet block">
                    {day(policy.savedAt)}
                    {policy.by ? ` by ${policy.by}` : ', came with the application'}
                  </span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {make && (
          <form
            className="mt-5 flex flex-wrap items-end gap-3"
            onSubmit={(event) => {
              event.preventDefault()
              const form = new FormData(event.currentTarget)
              begin(async () => {
                const made = await make(String(form.get('name') ?? ''), Number(form.get('like')))
                if (made.ok) router.push(`/screening/policies/${made.value}`)
                else setTold(made.error)
              })
            }}
          >
            <label className="field">
              <span>Name of the new policy</span>
              <input name="name" required maxLength={120} className="w-[260px]" />
            </label>
            <label className="field">
              <span>Begin with the rules of</span>
              <select name="like">
                {policies.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
            <button type="submit" className="button" disabled={busy}>
              Make policy
            </button>
          </form>
        )}
        {told && (
          <p role="alert" className="told mt-3">
            {told}
          </p>
        )}
      </div>
    </main>
  )
}

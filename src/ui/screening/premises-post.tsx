'use client'

import Link from 'next/link'
import { useEffect, useState, useTransition } from 'react'
import { PREMISES_RULE_NAME } from '@/core/screening/premises'
import type { PremisesScreening } from '@/core/views/round-views'
import { ask } from '@/ui/book/ask'
import { count } from '@/ui/book/figures'

/** Screens a saved list of premises for post, and shows the account of it with those that are held back. */
export function PremisesPost({ list, dirty }: { list: number; dirty: boolean }) {
  const [said, setSaid] = useState<PremisesScreening | null>(null)
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  // An account of the list as it was before a change is of another list.
  useEffect(() => {
    if (dirty) setSaid(null)
  }, [dirty])
  const screen = () =>
    begin(async () => {
      try {
        setSaid(await ask<PremisesScreening>(`/api/premises-post/${list}`))
        setTold('')
      } catch (error) {
        setTold((error as Error).message)
      }
    })
  return (
    <section aria-label="Screening for post" className="my-3 rounded-lg border border-rule bg-leaf px-4 py-2.5">
      <div className="flex items-center justify-between gap-3">
        <span>
          <b>Letters to these premises.</b>
          <span className="quiet block">
            Screened by address, household and owner. Rounds go to people: a list of people can name this one with a line “Linked to a
            list”.
          </span>
        </span>
        <button
          type="button"
          className="button"
          disabled={busy || dirty}
          title={dirty ? 'Save the list first' : undefined}
          onClick={screen}
        >
          {busy ? 'Screening …' : 'Screen for post'}
        </button>
      </div>
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
      {said && (
        <>
          <table className="account mt-2" aria-label="Screening account for post">
            <thead>
              <tr>
                <th scope="col">Line</th>
                <th scope="col" className="figure">
                  Out
                </th>
                <th scope="col" className="figure balance">
                  Left
                </th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td>
                  <b>Open</b> with the list
                </td>
                <td />
                <td className="figure balance">{count(said.figures.opening)}</td>
              </tr>
              {said.figures.rules.map(({ rule, out, balance }) => (
                <tr key={rule}>
                  <td>{PREMISES_RULE_NAME[rule]}</td>
                  <td className="figure text-madder">{out === 0 ? '' : count(out)}</td>
                  <td className="figure balance">{count(balance)}</td>
                </tr>
              ))}
              <tr className="total">
                <td>Clear for post</td>
                <td />
                <td className="figure balance">{count(said.figures.clear)}</td>
              </tr>
            </tbody>
          </table>
          {said.held.length > 0 && (
            <details className="mt-2">
              <summary className="cursor-pointer font-semibold text-verdigris">
                Held back{said.held.length < said.figures.opening - said.figures.clear && `, the first ${count(said.held.length)}`}
              </summary>
              <ul className="mt-1 grid gap-0.5">
                {said.held.map((own) => (
                  <li key={own.id}>
                    <Link prefetch={false} href={`/directory/premises/${own.id}`}>
                      {own.name}
                    </Link>
                    <span className="quiet">
                      {' '}
                      {own.rule}
                      {own.why && `: ${own.why}`}
                    </span>
                  </li>
                ))}
              </ul>
            </details>
          )}
        </>
      )}
    </section>
  )
}

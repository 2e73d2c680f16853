'use client'

import type { ReactNode } from 'react'
import type { ListFigures } from '@/core/lists/account'
import { count } from '@/ui/book/figures'

/** The account of a list: a row a line, and who is on it now. */
export function AccountTable({ figures, children }: { figures: ListFigures | null; children: ReactNode }) {
  return (
    <table className="account mt-2" aria-label="Lines">
      <thead>
        <tr>
          <th scope="col">Line</th>
          <th scope="col" className="figure">
            Out
          </th>
          <th scope="col" className="figure">
            Unknown
          </th>
          <th scope="col" className="figure">
            In
          </th>
          <th scope="col" className="figure balance">
            Balance
          </th>
        </tr>
      </thead>
      <tbody>
        {children}
        <tr className="total">
          <td>On the list now</td>
          <td className="figure text-madder">{count(figures?.totals.out)}</td>
          <td className="figure text-ochre">{count(figures?.totals.unknown)}</td>
          <td className="figure text-verdigris">{count(figures?.totals.in)}</td>
          <td className="figure balance" data-testid="balance">
            {count(figures?.totals.balance)}
          </td>
        </tr>
      </tbody>
    </table>
  )
}

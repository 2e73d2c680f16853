'use client'

import { ASKS_ABOUT, ASKS_NAME, type Asks } from '@/core/changes/asks'
import { FRESHNESS, FRESHNESS_SAYS, type Freshness } from '@/core/changes/freshness'
import type { ChangesPage } from '@/core/views/change-views'
import { count, Figure } from '@/ui/book/figures'

const WENT_NAME = {
  'handled by you': 'Handled by you',
  'handled by others': 'Handled by others',
  'put off': 'Put off',
  'set aside': 'Set aside',
  'no longer followed': 'Muted or no longer followed',
  gone: 'Gone',
} as const

interface Line {
  key: string
  name: string
  about?: string
  into: number
  out: number
  asks?: Asks
}

/** The account of somebody's changes since they last looked: what was left, what came and why, what went and why, what is left now. */
export function ChangesAccountTable({ page, asks, onAsks }: { page: ChangesPage; asks: Asks | null; onAsks: (asks: Asks | null) => void }) {
  const { account, freshness } = page
  const lines: Line[] = [
    ...account.came.map((line) => ({
      key: `${line.why} ${line.asks ?? ''}`,
      name:
        line.why === 'put off'
          ? 'Put off until today'
          : line.why === 'newly followed'
            ? 'Newly followed'
            : line.why === 'taken up again'
              ? 'Opened again'
              : ASKS_NAME[line.asks as Asks],
      about: line.asks ? ASKS_ABOUT[line.asks] : undefined,
      into: line.n,
      out: 0,
      asks: line.asks ?? undefined,
    })),
    ...account.went.map((line) => ({
      key: line.why,
      name: WENT_NAME[line.why],
      about: line.why === 'gone' ? 'merged, erased, undone, or told otherwise since' : undefined,
      into: 0,
      out: line.n,
    })),
  ]
  // What every account has stays; of the rest what moved.
  const shown = lines.filter((line) => line.asks !== undefined || line.into + line.out > 0)
  let balance = account.opening
  const came = account.came.reduce((sum, line) => sum + line.n, 0)
  const went = account.went.reduce((sum, line) => sum + line.n, 0)
  return (
    <table className="account mt-3" aria-label="Account of your changes">
      <thead>
        <tr>
          <th scope="col">What they ask of us</th>
          <th scope="col" className="figure">
            Out
          </th>
          <th scope="col" className="figure">
            In
          </th>
          <th scope="col" className="figure balance">
            Unhandled
          </th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td>
            <b>Open</b> with what was left
          </td>
          <td />
          <td />
          <td className="figure balance">{count(account.opening)}</td>
        </tr>
        {shown.map((line) => {
          balance += line.into - line.out
          const chosen = line.asks !== undefined && line.asks === asks
          return (
            <tr key={line.key} className={chosen ? 'in-hand' : ''}>
              <td>
                {line.asks ? (
                  <button
                    type="button"
                    className="min-h-6 text-left font-semibold hover:underline"
                    aria-pressed={chosen}
                    onClick={() => onAsks(chosen ? null : (line.asks as Asks))}
                  >
                    {line.name}
                  </button>
                ) : (
                  <b className="font-semibold">{line.name}</b>
                )}
                {line.about && <span className="quiet block">{line.about}</span>}
              </td>
              <td className="figure">
                <Figure value={line.out} tone="out" label={line.name} />
              </td>
              <td className="figure">
                <Figure value={line.into} tone="in" label={line.name} />
              </td>
              <td className="figure balance">{count(balance)}</td>
            </tr>
          )
        })}
        <tr className="total">
          <td>
            Unhandled now{' '}
            <span className="quiet font-normal">
              {FRESHNESS.filter((f) => freshness[f] > 0)
                .map((f) => `${count(freshness[f])} ${f}`)
                .join(' · ')}
            </span>
          </td>
          <td className="figure">
            <Figure value={went} tone="out" label="Out" />
          </td>
          <td className="figure">
            <Figure value={came} tone="in" label="In" />
          </td>
          <td className="figure balance">{count(account.closing)}</td>
        </tr>
      </tbody>
    </table>
  )
}

/** Those unhandled now, by list or by how fresh they are; each figure shows them. */
export function ChangesBy({
  page,
  by,
  list,
  freshness,
  onList,
  onFreshness,
}: {
  page: ChangesPage
  by: 'list' | 'freshness'
  list: number | null
  freshness: Freshness | null
  onList: (list: number | null) => void
  onFreshness: (freshness: Freshness | null) => void
}) {
  const rows =
    by === 'list'
      ? page.lists.map((own) => ({
          key: String(own.id),
          name: own.name,
          about: null,
          n: own.n,
          on: own.id === list,
          press: () => onList(own.id === list ? null : own.id),
        }))
      : FRESHNESS.map((own) => ({
          key: own,
          name: own === 'gone' ? 'Gone' : own === 'fresh' ? 'Fresh' : 'Fading',
          about: FRESHNESS_SAYS[own],
          n: page.freshness[own],
          on: own === freshness,
          press: () => onFreshness(own === freshness ? null : own),
        }))
  return (
    <table className="account mt-4" aria-label={by === 'list' ? 'Unhandled changes by list' : 'Unhandled changes by freshness'}>
      <thead>
        <tr>
          <th scope="col">{by === 'list' ? 'List' : 'How fresh'}</th>
          <th scope="col" className="figure balance">
            Unhandled
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.key} className={row.on ? 'in-hand' : ''}>
            <td>
              <button type="button" className="min-h-6 text-left font-semibold hover:underline" aria-pressed={row.on} onClick={row.press}>
                {row.name}
              </button>
              {row.about && <span className="quiet block">{row.about}</span>}
            </td>
            <td className="figure balance">{count(row.n)}</td>
          </tr>
        ))}
        {by === 'list' && (
          <tr>
            <td className="quiet" colSpan={2}>
              A change of somebody on several lists counts once for each.
            </td>
          </tr>
        )}
      </tbody>
    </table>
  )
}

'use client'

import Link from 'next/link'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { RequalifyPage } from '@/core/views/round-views'
import type { RequalifyFigures } from '@/core/rounds/requalify'
import { Arch } from './arch'
import { ask } from '@/ui/book/ask'
import { count, day, Figure } from '@/ui/book/figures'
import { RecordTable } from '@/ui/tables/record-table'
import { CheckAnew } from './check-anew'
import type { Check } from './check-closed'
import { roundStones } from './round-stones'
import { Spread } from '@/ui/book/spread'
import { TabRow } from '@/ui/book/tab-row'
import { recordsOf, useRecords } from '@/ui/tables/use-records'
import { useViewInAddress } from '@/ui/book/view-in-address'

type Which = 'listed' | 'clear'
type View = { account: Which; tab: 'left' | 'joined' | 'stayed' } | { account: Which; tab: 'row'; row: number }

/** A list held against its last round: both accounts on the left, the people behind any row on the right. */
export function RequalifyScreen({
  listId,
  list,
  building,
  next,
  mayStart,
  start,
  check,
}: {
  listId: number
  list: string
  building: { id: number; number: number } | null
  next: number
  mayStart: boolean
  start: (id: number, onlyNew?: boolean) => Promise<ActionResult<unknown>>
  check: Check
}) {
  const [view, setView] = useViewInAddress<View>({ account: 'listed', tab: 'left' }, ({ account, tab }) =>
    (account === 'listed' || account === 'clear') && (tab === 'left' || tab === 'joined' || tab === 'stayed') ? { account, tab } : null,
  )
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const people = useRecords(['requalify', listId, view], async (offset, signal) => {
    const answer = await ask<RequalifyPage>(`/api/requalify/${listId}`, { view, offset }, signal)
    return { ...recordsOf(answer.page), about: answer }
  })
  const accounts = people.about
  const side = view.tab === 'row' ? (accounts?.[view.account].rows[view.row]?.side ?? 'left') : view.tab
  const shown = accounts?.[view.account]
  return (
    <Spread
      width="640px"
      label={{ left: 'The accounts', right: 'The people' }}
      left={
        <>
          <h1>Requalify · {list}</h1>
          <p className="quiet">
            {accounts
              ? `Opens with round ${accounts.round.number}${accounts.round.supplements > 0 ? ` and its supplements` : ''} of ${day(accounts.round.releasedAt)}, edition ${accounts.editions.earlier}; closes with today, edition ${accounts.editions.today}`
              : 'The accounts are being worked out'}
          </p>
          <div className="my-3 flex items-center gap-4 rounded-lg border border-rule bg-leaf px-4 py-2.5">
            <Arch width={84} stones={roundStones(null)} />
            <p className="flex-1">
              <b>{building ? `Round ${building.number} is being built.` : `Round ${next} comes next.`}</b>
              <br />
              {accounts?.round.open && !building
                ? `Starting it closes round ${accounts.round.number}.`
                : 'The list itself is not changed by looking.'}{' '}
              <Link href={`/lists/${listId}/rounds`} className="whitespace-nowrap">
                Trend of its rounds
              </Link>
            </p>
            {building ? (
              <Link href={`/rounds/${building.id}`} className="button button-main">
                Go on to screening
              </Link>
            ) : (
              mayStart && (
                <span className="flex flex-col gap-1.5">
                  {([false, true] as const).map((onlyNew) => (
                    <button
                      key={String(onlyNew)}
                      type="button"
                      className={`button justify-center ${onlyNew ? '' : 'button-main'}`}
                      title={onlyNew ? 'Without whoever an earlier round of the list released' : undefined}
                      disabled={busy || !accounts}
                      onClick={() =>
                        begin(async () => {
                          const result = await start(listId, onlyNew)
                          if (result && !result.ok) setTold(result.error)
                        })
                      }
                    >
                      {onlyNew ? 'Only new people' : `Start round ${next}`}
                    </button>
                  ))}
                </span>
              )
            )}
          </div>
          {told && (
            <p role="alert" className="told">
              {told}
            </p>
          )}
          {mayStart && <CheckAnew list={listId} check={check} />}
          {(['listed', 'clear'] as const).map((which) => (
            <Account
              key={which}
              which={which}
              figures={accounts?.[which]}
              causes={accounts?.causes[which] ?? []}
              round={accounts && `${accounts.round.number}${accounts.round.supplements > 0 ? ' and its supplements' : ''}`}
              view={view}
              onView={setView}
            />
          ))}
        </>
      }
      right={
        <>
          <TabRow
            label="Tabs of people"
            open={side}
            onOpen={(tab) => setView({ account: view.account, tab: tab as 'left' | 'joined' | 'stayed' })}
            tabs={[
              { key: 'left', title: 'Left', total: shown?.left ?? null },
              { key: 'joined', title: 'Joined', total: shown?.joined ?? null },
              { key: 'stayed', title: 'Stayed', total: shown?.stayed ?? null },
            ]}
          >
            <span className="quiet">{view.account === 'listed' ? 'of those listed' : 'of those clear'}</span>
          </TabRow>
          {view.tab === 'row' && (
            <p className="quiet mt-2 flex justify-between gap-3">
              <span>
                Only {count(people.total)}: {accounts?.causes[view.account][view.row]}
              </span>
              <button
                type="button"
                className="font-semibold whitespace-nowrap text-verdigris"
                onClick={() => setView({ account: view.account, tab: side })}
              >
                Show all
              </button>
            </p>
          )}
          <RecordTable
            subject="person"
            records={people}
            because={side === 'stayed' ? undefined : side === 'left' ? 'Left because' : 'Joined because'}
            empty={`Nobody ${side} since the last round.`}
          />
        </>
      }
    />
  )
}

function Account({
  which,
  figures,
  causes,
  round,
  view,
  onView,
}: {
  which: Which
  figures: RequalifyFigures | undefined
  causes: string[]
  round: string | undefined
  view: View
  onView: (view: View) => void
}) {
  const name = which === 'listed' ? 'Listed' : 'Clear to contact'
  return (
    <table className="account mt-3" aria-label={name} data-testid={`account-${which}`}>
      <thead>
        <tr>
          <th scope="col">{name}</th>
          <th scope="col" className="figure">
            Left
          </th>
          <th scope="col" className="figure">
            Joined
          </th>
          <th scope="col" className="figure balance">
            Balance
          </th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td>
            <b>Open</b> with round {round ?? '–'}
          </td>
          <td />
          <td />
          <td className="figure balance">{count(figures?.opening)}</td>
        </tr>
        {figures?.rows.map((row, i) => (
          <tr key={causes[i] ?? i} className={view.tab === 'row' && view.account === which && view.row === i ? 'in-hand' : ''}>
            <td>{causes[i]}</td>
            {(['left', 'joined'] as const).map((side) => (
              <td key={side} className="figure">
                {row.side === side && (
                  <Figure
                    value={row.count}
                    tone={side === 'left' ? 'out' : 'in'}
                    label={`${side}: ${causes[i]}`}
                    onChoose={() => onView({ account: which, tab: 'row', row: i })}
                  />
                )}
              </td>
            ))}
            <td className="figure balance">{count(row.balance)}</td>
          </tr>
        ))}
        <tr className="total">
          <td>
            {which === 'listed' ? 'On the list now' : 'Clear now'}{' '}
            <span className="quiet font-normal">{figures && `${count(figures.stayed)} stayed`}</span>
          </td>
          <td className="figure text-madder">
            {figures && (
              <Figure
                value={figures.left}
                tone="out"
                label={`${name}, all who left`}
                onChoose={() => onView({ account: which, tab: 'left' })}
              />
            )}
          </td>
          <td className="figure text-verdigris">
            {figures && (
              <Figure
                value={figures.joined}
                tone="in"
                label={`${name}, all who joined`}
                onChoose={() => onView({ account: which, tab: 'joined' })}
              />
            )}
          </td>
          <td className="figure balance">{count(figures?.closing)}</td>
        </tr>
      </tbody>
    </table>
  )
}

'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useState, useTransition } from 'react'
import type { LetterChoice } from '@/core/rounds/letter-choice'
import { PREMISES_RULE_NAME, PREMISES_RULES } from '@/core/screening/premises'
import type { ActionResult } from '@/core/views/action-result'
import type { PremisesRoundAccount, PremisesRoundPage, PremisesRoundView } from '@/core/views/premises-round-views'
import { useGrowing } from '@/ui/book/asking'
import { useNews } from '@/ui/book/book'
import { count, day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { TabRow } from '@/ui/book/tab-row'
import { useViewInAddress } from '@/ui/book/view-in-address'
import { Confirm } from '@/ui/forms/confirm'
import { Arch } from './arch'
import { LetterChoiceForm, lettersText } from './letter-choice-form'
import { HeldPremisesTable, LettersTable } from './letters-table'
import { LettersAccount, PremisesRoundSteps, PremisesRoundTable, SinceBefore } from './premises-round-account'
import { PremisesRoundFiles } from './premises-round-files'
import { roundStones } from './round-stones'

export interface PremisesRoundActions {
  choose: (round: number, choice: unknown) => Promise<ActionResult<unknown>>
  releaseLetters: (round: number, confirmed: { print: string; letters: number }) => Promise<ActionResult<unknown>>
  posted: (round: number, day: string) => Promise<ActionResult<{ posted: number; stopped: number }>>
  unposted: (round: number) => Promise<ActionResult<{ back: number }>>
  heard: (round: number, letter: number, what: string | null) => Promise<ActionResult<unknown>>
  close: (round: number) => Promise<ActionResult<unknown>>
}

const TABS = ['letters', 'held', 'joined', 'left'] as const

/** A round of premises: its account and to whom its letters go on the left, the letters and what got none on the right. */
export function PremisesRoundScreen({ round, today, actions }: { round: PremisesRoundPage; today: string; actions: PremisesRoundActions }) {
  const router = useRouter()
  const [view, setView] = useViewInAddress<PremisesRoundView>({ tab: 'letters' }, ({ tab, rule }) => {
    const known = TABS.find((own) => own === tab)
    if (known) return { tab: known }
    const by = PREMISES_RULES.find((own) => own === rule)
    return tab === 'rule' && by ? { tab, rule: by } : null
  })
  const [said, setSaid] = useState<{ told: boolean; text: string } | null>(null)
  const [busy, begin] = useTransition()
  const { pages, told, more, again } = useGrowing<PremisesRoundAccount>(
    (offset) => [`/api/rounds/${round.id}/premises`, { view, offset, choice: JSON.stringify(round.choice) }],
    (page) => page.letters.length + page.held.length,
  )
  const account = pages[0]
  const building = round.state === 'being built'
  useNews((news) => {
    if (news.is === 'data') void again()
    if (news.is === 'round' && news.round === round.id) router.refresh()
  })
  const run = <T,>(work: () => Promise<ActionResult<T>>, done?: (value: T) => string) =>
    begin(async () => {
      const result = await work()
      setSaid(result.ok ? (done ? { told: false, text: done(result.value) } : null) : { told: true, text: result.error })
      await again()
      router.refresh()
    })
  // What is chosen shows at once; what somebody else chose meanwhile comes with the page when it is loaded again.
  const kept = JSON.stringify(round.choice)
  const [choice, setChoice] = useState(round.choice)
  useEffect(() => setChoice(JSON.parse(kept)), [kept])
  const change = (next: LetterChoice) => {
    setChoice(next)
    begin(async () => {
      const result = await actions.choose(round.id, next)
      setSaid(result.ok ? null : { told: true, text: result.error })
      if (!result.ok) setChoice(JSON.parse(kept))
      router.refresh()
    })
  }
  const figures = account?.figures
  const letters = pages.flatMap((page) => page.letters)
  const held = pages.flatMap((page) => page.held)
  const editable = building && round.mayRelease
  return (
    <Spread
      width="600px"
      label={{ left: 'The account of the letters', right: 'The letters' }}
      left={
        <>
          <h1>
            Round {round.number} · {round.list}
          </h1>
          <p className="quiet">{subtitle(round)}</p>
          <div className="my-3 flex items-end gap-6">
            <Arch
              stones={roundStones(
                round.state,
                {
                  requalify: `/lists/${round.listId}`,
                  screen: `/rounds/${round.id}`,
                  ...(building ? {} : { results: `/rounds/${round.id}/results` }),
                },
                null,
                account?.stand ? account.stand.toPost > 0 : true,
              )}
            />
            <PremisesRoundSteps round={round} account={account} />
          </div>
          {said && (
            <p role={said.told ? 'alert' : 'status'} className={`${said.told ? 'told' : 'said'} mb-2`}>
              {said.text}
            </p>
          )}
          {told && (
            <p role="alert" className="told mb-2">
              {told}
            </p>
          )}
          <LetterChoiceForm choice={choice} account={account} editable={editable} onChange={change} />
          <PremisesRoundTable round={round} account={account} view={view} onView={setView} />
          {figures && figures.letters > 0 && (
            <p className="quiet mt-1.5">
              {count(figures.named)} name somebody, {count(figures.abroad)} go abroad
              {figures.several > 0 && `, ${count(figures.several)} are about several premises`}.
            </p>
          )}
          {editable && (
            <div className="mt-4 flex items-center gap-3">
              <Confirm
                title={`Release round ${round.number} of ${round.list}?`}
                act={`Release ${count(figures?.letters)} letters`}
                onAct={() =>
                  run(() => actions.releaseLetters(round.id, { print: account?.print ?? '', letters: account?.figures.letters ?? 0 }))
                }
                trigger={
                  <button type="button" className="button button-main" disabled={busy || !account || account.figures.letters === 0}>
                    Release round {round.number}
                  </button>
                }
              >
                <p>
                  {figures && lettersText(figures, round.choice)}, about {count(figures?.clear)} premises.{' '}
                  {figures && figures.opening > figures.clear && `${count(figures.opening - figures.clear)} premises get none. `}
                  To whom and where they go is frozen as it is now. A released round can be closed, but not taken back.
                </p>
              </Confirm>
              <span className="quiet">Freezes the letters and gives you a file and labels.</span>
            </div>
          )}
          {building && !round.mayRelease && <p className="quiet mt-4">Coordinators and managers release rounds.</p>}
          {!building && (
            <PremisesRoundFiles
              round={round}
              stand={account?.stand ?? null}
              today={today}
              busy={busy}
              onPosted={(on) =>
                run(
                  () => actions.posted(round.id, on),
                  ({ posted, stopped }) =>
                    `Recorded ${count(posted)} ${posted === 1 ? 'letter' : 'letters'} as posted${stopped > 0 ? `; ${count(stopped)} were stopped` : ''}.`,
                )
              }
              onUnposted={() =>
                run(
                  () => actions.unposted(round.id),
                  ({ back }) => `Took back “posted” of ${count(back)} ${back === 1 ? 'letter' : 'letters'}.`,
                )
              }
              onClose={() => run(() => actions.close(round.id))}
            />
          )}
          {account?.stand && <LettersAccount round={round} stand={account.stand} />}
          {account?.since && <SinceBefore since={account.since} view={view} onView={setView} />}
        </>
      }
      right={
        <>
          <TabRow
            label="Tabs of letters"
            open={view.tab === 'rule' ? 'held' : view.tab}
            onOpen={(tab) => setView({ tab: tab as (typeof TABS)[number] })}
            tabs={[
              { key: 'letters', title: 'Letters', total: figures?.letters ?? null },
              { key: 'held', title: 'Get no letter', total: figures ? figures.opening - figures.clear : null },
              ...(account?.since ? [{ key: 'joined', title: 'Joined', total: account.since.joined }] : []),
              ...(account?.since ? [{ key: 'left', title: 'Left', total: account.since.left }] : []),
            ]}
          />
          {view.tab === 'rule' && (
            <p className="quiet mt-2 flex justify-between gap-3">
              <span>
                Only {count(account?.total)} held back by: {PREMISES_RULE_NAME[view.rule]}
              </span>
              <button type="button" className="font-semibold whitespace-nowrap text-verdigris" onClick={() => setView({ tab: 'held' })}>
                Show all
              </button>
            </p>
          )}
          {account && account.total === 0 && <p className="mt-4 text-soft">{view.tab === 'letters' ? 'No letter can go.' : 'None.'}</p>}
          {letters.length > 0 && (
            <LettersTable
              letters={letters}
              released={!building}
              {...(!building && round.mayTake && !busy
                ? { onHeard: (letter: number, what: string | null) => run(() => actions.heard(round.id, letter, what)) }
                : {})}
            />
          )}
          {held.length > 0 && (
            <HeldPremisesTable
              held={held}
              why={view.tab === 'joined' || view.tab === 'left' ? 'Against the round before' : 'Gets no letter because'}
            />
          )}
          {more && (
            <button type="button" className="button mt-3" onClick={more}>
              Show more · {count(letters.length + held.length)} of {count(account?.total)}
            </button>
          )}
        </>
      }
    />
  )
}

function subtitle(round: PremisesRoundPage): string {
  if (round.closedAt)
    return `Released ${day(round.releasedAt as string)} by ${round.by}, closed ${day(round.closedAt)} · as it was frozen then`
  if (round.releasedAt) return `Released ${day(round.releasedAt)} by ${round.by} · frozen as of then`
  return `Letters to premises · opened ${day(round.startedAt)} by ${round.by} · counts follow the directory until it is released`
}

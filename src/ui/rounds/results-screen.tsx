'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { CONTACTED, contactedIn, costPerAnswer, type Outcome, OUTCOMES, PARTED_BY, releasedIn } from '@/core/rounds/results'
import { OUTCOME_TEXT } from '@/core/text/results-csv'
import { moneyText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'
import type { PeoplePage } from '@/core/views/record-views'
import type { ResultsPage, ResultsView } from '@/core/views/result-views'
import { ask } from '@/ui/book/ask'
import { useNews } from '@/ui/book/book'
import { count, day, Figure } from '@/ui/book/figures'
import { MakeList } from '@/ui/book/make-list'
import { Spread } from '@/ui/book/spread'
import { useViewInAddress } from '@/ui/book/view-in-address'
import { RecordTable } from '@/ui/tables/record-table'
import { recordsOf, useRecords } from '@/ui/tables/use-records'
import { Arch } from './arch'
import { ResultParts, RoundsBefore } from './result-parts'
import { ResultsActions } from './results-shared'
import { roundStones } from './round-stones'
import { viewTitle } from './results-words'

const OF = [...OUTCOMES, 'released', 'contacted'] as const

/** What came of a round: the account that closes on the left, the people behind each figure on the right. */
export function ResultsScreen({ page, close }: { page: ResultsPage; close: (id: number) => Promise<ActionResult<unknown>> }) {
  const router = useRouter()
  const [view, setView] = useViewInAddress<ResultsView>({ of: 'answered' }, ({ of, by, key }) => {
    const whole = OF.find((own) => own === of)
    if (!whole) return null
    const parted = (['way', ...PARTED_BY] as const).find((own) => own === by)
    return parted && key ? { of: whole, by: parted, key } : { of: whole }
  })
  const [told, setTold] = useState<string | null>(null)
  const people = useRecords(['results', page.id, page.results.counts, view], async (offset, signal) =>
    recordsOf(await ask<PeoplePage>(`/api/rounds/${page.id}/results`, { view, offset }, signal)),
  )
  useNews((news) => {
    if (news.is === 'data' || (news.is === 'round' && news.round === page.id)) router.refresh()
  })
  const { counts, ways } = page.results
  const released = releasedIn(counts)
  const contacted = contactedIn(counts)
  const perAnswer = costPerAnswer(page.results)
  const figure = (of: ResultsView['of'], value: number, tone: 'plain' | 'in' | 'out' | 'unknown') => (
    <Figure value={value} tone={tone} label={viewTitle({ of })} chosen={view.of === of && !view.by} onChoose={() => setView({ of })} />
  )
  const late = page.closing ? counts.answered - page.closing.counts.answered : 0
  return (
    <Spread
      width="640px"
      label={{ left: 'The account of results', right: 'The people' }}
      left={
        <>
          <h1>
            Results · Round {page.called} of {page.list}
          </h1>
          <p className="quiet">
            Released {day(page.releasedAt)} by {page.by}
            {page.closedAt ? `, closed ${day(page.closedAt)}` : ' · contacts still come in'}
          </p>
          {page.supplements.length > 0 && (
            <p className="quiet">
              {page.called.includes('supplement') ? 'Added up in the results of ' : 'Adds up '}
              {page.supplements.map(({ id, called, people: clear }, i) => (
                <span key={id}>
                  {i > 0 && ', '}
                  <Link href={`/rounds/${id}/results`}>round {called}</Link> ({count(clear)} people)
                </span>
              ))}
              {page.called.includes('supplement') ? '' : ' with the round itself'}
            </p>
          )}
          <div className="my-3 flex items-end gap-6 print:hidden">
            <Arch
              stones={roundStones(
                page.state,
                {
                  requalify: page.hasEarlier ? `/lists/${page.listId}/requalify` : `/lists/${page.listId}`,
                  screen: `/rounds/${page.id}`,
                  ...(page.check ? { check: `/rounds/${page.id}/check` } : {}),
                  contact: `/rounds/${page.id}/letter`,
                  results: `/rounds/${page.id}/results`,
                },
                page.check,
                counts['not worked'] > 0,
              )}
            />
            <ResultsActions page={page} trend={`/lists/${page.listId}/rounds`} close={close} onTold={setTold} />
          </div>
          {told && (
            <p role="alert" className="told mb-2">
              {told}
            </p>
          )}
          <table className="account" aria-label="Account of results">
            <thead>
              <tr>
                <th scope="col">Each person once</th>
                <th scope="col" className="figure">
                  Share
                </th>
                <th scope="col" className="figure balance">
                  People
                </th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td>
                  <b>Released</b> by at least one channel
                </td>
                <td />
                <td className="figure balance">{figure('released', released, 'plain')}</td>
              </tr>
              {(['stopped', 'not worked'] as const).map((of) => (
                <tr key={of} data-testid={`result-${of}`}>
                  <td>
                    {OUTCOME_TEXT[of]} <span className="quiet">{NOTE[of]}</span>
                  </td>
                  <td className="figure">{share(counts[of], released)}</td>
                  <td className="figure balance">{figure(of, counts[of], 'out')}</td>
                </tr>
              ))}
              <tr className="total" data-testid="result-contacted">
                <td>Contacted</td>
                <td className="figure">{share(contacted, released)}</td>
                <td className="figure balance">{figure('contacted', contacted, 'plain')}</td>
              </tr>
              {CONTACTED.map((of) => (
                <tr key={of} data-testid={`result-${of}`}>
                  <td>
                    {OUTCOME_TEXT[of]} <span className="quiet">{NOTE[of]}</span>
                  </td>
                  <td className="figure">{share(counts[of], contacted)}</td>
                  <td className="figure balance">{figure(of, counts[of], TONE[of])}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="quiet mt-1.5">
            Each person counts once, by the best result.
            {perAnswer !== null && ` An answer cost ${moneyText(perAnswer / 100)}.`}
            {page.closing &&
              (late === 0
                ? ' Nothing has come in since it was closed.'
                : ` When it was closed, ${count(page.closing.counts.answered)} had answered.`)}
          </p>
          <ResultParts results={page.results} ways={ways} view={view} onView={setView} />
          <RoundsBefore page={page} />
        </>
      }
      right={
        <>
          <div className="flex items-start justify-between gap-3">
            <h2>
              {viewTitle(view)} <span className="font-sans text-[13px] font-normal text-soft">{count(people.total)}</span>
            </h2>
            {page.mayTake && (people.total ?? 0) > 0 && <MakeList these={{ round: page.id, results: view }}>Make a list of these</MakeList>}
          </div>
          {view.by && (
            <p className="quiet mt-1 flex justify-between gap-3">
              <span>Only those of one part.</span>
              <button type="button" className="font-semibold text-verdigris" onClick={() => setView({ of: view.of })}>
                Show all
              </button>
            </p>
          )}
          <RecordTable subject="person" records={people} because="Result" empty="Nobody." />
        </>
      }
    />
  )
}

const TONE = { answered: 'in', reached: 'plain', 'not reached': 'unknown', failed: 'out' } as const
const NOTE: Record<Outcome, string> = {
  stopped: 'suppressed before any contact',
  'not worked': 'no contact on record',
  answered: 'spoke, replied or declined',
  reached: 'sent, opened or voicemail',
  'not reached': 'no answer, or a soft bounce',
  failed: 'bounced, returned, wrong number, has left',
}

const share = (n: number, of: number): string => (n === 0 || of === 0 ? '' : `${Math.round((1000 * n) / of) / 10} %`)

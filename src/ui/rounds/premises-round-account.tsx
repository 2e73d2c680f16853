'use client'

import Link from 'next/link'
import { PREMISES_RULE_NAME } from '@/core/screening/premises'
import type { LettersStand, PremisesRoundAccount, PremisesRoundPage, PremisesRoundView } from '@/core/views/premises-round-views'
import { lettersCost } from '@/core/rounds/letter-choice'
import { dateText, moneyText } from '@/core/text/written'
import { count, Figure } from '@/ui/book/figures'

/** The steps of a round of premises in words, beside its arch. */
export function PremisesRoundSteps({ round, account }: { round: PremisesRoundPage; account: PremisesRoundAccount | undefined }) {
  const building = round.state === 'being built'
  const closed = round.state === 'closed'
  const { since, stand } = account ?? {}
  const posted = stand && stand.posted + stand.answered + stand['came back'] + stand['asked us to stop']
  const done = closed || (stand ? stand.toPost === 0 : false)
  return (
    <ol className="grid gap-0.5 pb-1">
      <li>
        <span className="font-semibold text-verdigris">
          ✓{' '}
          <Link href={`/lists/${round.listId}`} className="no-underline hover:underline">
            Requalify
          </Link>
        </span>{' '}
        {since ? `${count(since.joined)} joined, ${count(since.left)} left` : round.earlier ? '' : 'the first round of its list'}
      </li>
      <li className={building ? 'font-bold' : 'text-verdigris'}>{building ? '2 Screen, now' : '✓ Screen'}</li>
      <li className={building ? '' : 'text-verdigris'}>{building ? '4 Release, the keystone' : '✓ Release, the keystone'}</li>
      <li className={building ? '' : done ? 'text-verdigris' : 'font-bold'}>
        {!building && done ? '✓ ' : '5 '}Contact
        <span className="font-normal">
          {stand ? `, ${count(posted)} of ${count(account?.figures.letters)} letters posted` : ', by letter'}
        </span>
      </li>
      {!building && (
        <li className={closed ? 'text-verdigris' : ''}>
          {closed ? '✓ ' : '6 '}
          <Link href={`/rounds/${round.id}/results`} className="no-underline hover:underline">
            Results
          </Link>
        </li>
      )}
      <li className={closed ? 'text-verdigris' : ''}>{closed ? '✓ Close' : '7 Close'}</li>
    </ol>
  )
}

/** The account of a round of premises: from the list to the letters, rule by rule. */
export function PremisesRoundTable({
  round,
  account,
  view,
  onView,
}: {
  round: PremisesRoundPage
  account: PremisesRoundAccount | undefined
  view: PremisesRoundView
  onView: (view: PremisesRoundView) => void
}) {
  const figures = account?.figures
  const cost = figures ? lettersCost(figures, round.choice) : null
  return (
    <table className="account mt-3" aria-label="Screening account for letters">
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
            <b>Open</b> with the list, edition {round.edition}
          </td>
          <td />
          <td className="figure balance">{count(figures?.opening)}</td>
        </tr>
        {figures?.rules.map(({ rule, out, balance }) => (
          <tr key={rule}>
            <td>
              {PREMISES_RULE_NAME[rule]}
              {rule === 'written' && round.choice.restDays !== null && (
                <span className="quiet"> · within {count(round.choice.restDays)} days</span>
              )}
            </td>
            <td className="figure">
              <Figure
                value={out}
                tone="out"
                label={PREMISES_RULE_NAME[rule]}
                chosen={view.tab === 'rule' && view.rule === rule}
                onChoose={() => onView({ tab: 'rule', rule })}
              />
            </td>
            <td className="figure balance">{count(balance)}</td>
          </tr>
        ))}
        <tr>
          <td>
            <b>Premises that get a letter</b>
          </td>
          <td />
          <td className="figure balance">{count(figures?.clear)}</td>
        </tr>
        <tr>
          <td>
            Share a letter with others <span className="quiet">· at one address{round.choice.to === 'owner' && ' of one owner'}</span>
          </td>
          <td className="figure">{figures && figures.clear > figures.letters ? count(figures.clear - figures.letters) : ''}</td>
          <td className="figure balance">{count(figures?.letters)}</td>
        </tr>
        <tr className="total" data-testid="letters">
          <td>
            Letters
            {cost !== null && <span className="quiet font-normal"> · {moneyText(cost / 100)}</span>}
          </td>
          <td />
          <td className="figure balance">{count(figures?.letters)}</td>
        </tr>
      </tbody>
    </table>
  )
}

/** The list against the round before it. */
export function SinceBefore({
  since,
  view,
  onView,
}: {
  since: NonNullable<PremisesRoundAccount['since']>
  view: PremisesRoundView
  onView: (view: PremisesRoundView) => void
}) {
  return (
    <table className="account mt-4" aria-label="Since the round before">
      <tbody>
        <tr>
          <td>On round {since.round}</td>
          <td className="figure balance">{count(since.before)}</td>
        </tr>
        <tr>
          <td>Joined</td>
          <td className="figure">
            <Figure
              value={since.joined}
              tone="in"
              label="Joined"
              chosen={view.tab === 'joined'}
              onChoose={() => onView({ tab: 'joined' })}
            />
          </td>
        </tr>
        <tr>
          <td>Left</td>
          <td className="figure">
            <Figure value={since.left} tone="out" label="Left" chosen={view.tab === 'left'} onChoose={() => onView({ tab: 'left' })} />
          </td>
        </tr>
        <tr className="total">
          <td>On this round</td>
          <td className="figure balance">{count(since.now)}</td>
        </tr>
      </tbody>
    </table>
  )
}

const STAND: [Exclude<keyof LettersStand, 'days'>, string][] = [
  ['stopped', 'Stopped since the release'],
  ['toPost', 'Not posted yet'],
  ['posted', 'Posted, nothing heard'],
  ['answered', 'Answered'],
  ['came back', 'Came back'],
  ['asked us to stop', 'Asked us to stop'],
]

/** What became of the letters of a released round: each is in exactly one line. */
export function LettersAccount({ round, stand }: { round: PremisesRoundPage; stand: LettersStand }) {
  const all = STAND.reduce((sum, [key]) => sum + stand[key], 0)
  const closed = round.state === 'closed'
  return (
    <>
      <p className="mt-4 flex items-baseline justify-between">
        <b>What became of the letters</b>
        <Link href={`/rounds/${round.id}/results`}>Results</Link>
      </p>
      <table className="account mt-1" aria-label="What became of the letters">
        <tbody>
          {STAND.map(([key, title]) => (
            <tr key={key}>
              <td>
                {key === 'toPost' && closed ? 'Not posted' : title}
                {key === 'posted' && stand.days && (
                  <span className="quiet">
                    {' '}
                    ·{' '}
                    {stand.days[0] === stand.days[1] ? dateText(stand.days[0]) : `${dateText(stand.days[0])} to ${dateText(stand.days[1])}`}
                  </span>
                )}
              </td>
              <td className="figure">{stand[key] === 0 ? <span className="sr-only">0</span> : count(stand[key])}</td>
            </tr>
          ))}
          <tr className="total">
            <td>Letters released</td>
            <td className="figure balance">{count(all)}</td>
          </tr>
        </tbody>
      </table>
    </>
  )
}

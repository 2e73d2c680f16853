import Link from 'next/link'
import type { RoundPage } from '@/core/views/round-views'
import { shareText } from '@/core/text/written'
import { count } from '@/ui/book/figures'

/** The steps of a round in words, beside its arch. */
export function RoundSteps({ round }: { round: RoundPage }) {
  const building = round.state === 'being built'
  const closed = round.state === 'closed'
  return (
    <ol className="grid gap-0.5 pb-1">
      <li>
        <span className="font-semibold text-verdigris">
          ✓{' '}
          <Link
            href={round.hasEarlier && building ? `/lists/${round.listId}/requalify` : `/lists/${round.listId}`}
            className="no-underline hover:underline"
          >
            Requalify
          </Link>
        </span>{' '}
        {round.requalified
          ? `${count(round.requalified.joined)} joined, ${count(round.requalified.left)} left`
          : round.base
            ? `whoever came onto the list since round ${round.base.called}`
            : round.hasEarlier
              ? ''
              : 'the first round of its list'}
      </li>
      <li className={building ? 'font-bold' : 'text-verdigris'}>{building ? '2 Screen, now' : '✓ Screen'}</li>
      {building || round.check ? <CheckStep round={round} /> : <li className="text-soft">– Check, left out</li>}
      <li className={building ? '' : 'text-verdigris'}>{building ? '4 Release, the keystone' : '✓ Release, the keystone'}</li>
      <li className={building ? '' : closed || round.toCome.open === 0 ? 'text-verdigris' : 'font-bold'}>
        {closed || (!building && round.toCome.open === 0) ? '✓ ' : '5 '}
        Contact
        <span className="font-normal">
          ,{' '}
          <Link href={`/rounds/${round.id}/letter`} className="underline">
            {closed ? 'the email' : building ? 'write the email' : 'write and send the email'}
          </Link>
        </span>
      </li>
      {building && <li>6 Results</li>}
      {!building && (
        <li className={closed ? 'text-verdigris' : 'font-bold'}>
          {closed ? '✓ ' : '6 '}
          <Link href={`/rounds/${round.id}/results`} className="no-underline hover:underline">
            Results
          </Link>
          <span className="font-normal">
            {closed ? '' : `, ${count(round.toCome.all - round.toCome.open)} of ${count(round.toCome.all)} contacts made`}
          </span>
        </li>
      )}
      <li className={closed ? 'text-verdigris' : ''}>{closed ? '✓ Close' : '7 Close'}</li>
    </ol>
  )
}

/** How the fit check stands, with the way to it. */
function CheckStep({ round: { id, check } }: { round: RoundPage }) {
  const done = check !== null && (check.ended || check.outcome === 'passes')
  return (
    <li className={done ? 'text-verdigris' : ''}>
      {done ? '✓ ' : '3 '}
      <Link href={`/rounds/${id}/check`} className="no-underline hover:underline">
        Check
      </Link>
      <span className="font-normal">
        {check === null
          ? ', look at some of them'
          : ` ${count(check.seen)} of ${count(check.sample)} seen${check.share === null ? '' : `, ${shareText(check.share)} fit`}${check.outcome === 'fails' ? ': does not pass' : ''}`}
      </span>
    </li>
  )
}

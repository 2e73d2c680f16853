'use client'

import Link from 'next/link'
import { type MailAccount, MESSAGE_STATES, type MessageBecame } from '@/core/views/letter-views'
import { useAsked } from '@/ui/book/asking'
import { count, day } from '@/ui/book/figures'

const TITLE: Record<MessageBecame, string> = {
  accepted: 'Accepted by the mail service',
  refused: 'Refused for good',
  'given up': 'Not taken, however often it was tried',
  'left out': 'Left out when it was their turn',
  waiting: 'Still to leave',
}

/** How far the emails of a round are: an account that closes, and whom they did not reach. */
export function MailProgress({
  round,
  busy,
  mayAct,
  onPause,
  onResume,
}: {
  round: number
  busy: boolean
  mayAct: boolean
  onPause: () => void
  onResume: () => void
}) {
  const { answer, told, again } = useAsked<MailAccount>([`/api/rounds/${round}/mail`], {
    every: ({ state }) => (state === 'running' ? 1000 : false),
    also: String(busy),
    hold: true,
  })
  if (!answer)
    return told ? (
      <p role="alert" className="told">
        {told}
      </p>
    ) : (
      <p className="quiet">Reading …</p>
    )
  const notReached = answer.counts.refused + answer.counts['given up'] + answer.counts['left out']
  const act = (work: () => void) => () => {
    work()
    void again()
  }
  return (
    <>
      <p className="quiet">
        {answer.by} began to send them on {day(answer.begunAt)}, {count(answer.perMinute)} a minute at most.
      </p>
      {answer.note && (
        <p role="alert" className="told mt-2">
          {answer.note}
        </p>
      )}
      <table className="account mt-3" aria-label="Account of the emails">
        <thead>
          <tr>
            <th scope="col">Each person once</th>
            <th scope="col" className="figure balance">
              Emails
            </th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>
              <b>Released</b> by email
            </td>
            <td className="figure balance" data-testid="mail-total">
              {count(answer.total)}
            </td>
          </tr>
          {MESSAGE_STATES.map((state) => (
            <tr key={state} data-testid={`mail-${state}`}>
              <td>{TITLE[state]}</td>
              <td className="figure balance">{count(answer.counts[state])}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        {mayAct && answer.state === 'running' && (
          <button type="button" className="button" disabled={busy} onClick={act(onPause)}>
            Pause
          </button>
        )}
        {mayAct && (answer.state === 'paused' || answer.state === 'failed') && (
          <button type="button" className="button button-main" disabled={busy} onClick={act(onResume)}>
            Go on
          </button>
        )}
        <span role="status" className="quiet">
          {answer.state === 'done'
            ? `Done on ${day(answer.endedAt ?? answer.begunAt)}. Bounced addresses are held back from now on.`
            : answer.state === 'running'
              ? 'They are leaving. This page can be closed.'
              : ''}
        </span>
      </div>
      {answer.missed.length > 0 && (
        <>
          <h2 className="mt-4">Who got no email</h2>
          {answer.missed.length < notReached && (
            <p className="quiet">
              The first {count(answer.missed.length)} of {count(notReached)}.
            </p>
          )}
          <table className="account" aria-label="Who got no email">
            <thead>
              <tr>
                <th scope="col">Person</th>
                <th scope="col">Why</th>
              </tr>
            </thead>
            <tbody>
              {answer.missed.map(({ person, name, why }) => (
                <tr key={person}>
                  <td>
                    <Link href={`/directory/people/${person}`}>{name}</Link>
                  </td>
                  <td className="first-letter:uppercase">{why}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </>
  )
}

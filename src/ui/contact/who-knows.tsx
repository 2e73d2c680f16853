'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { OWN_TIES } from '@/core/contact/ties'
import { dateText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'
import type { IntroductionView, WhoKnows } from '@/core/views/tie-views'
import { day } from '@/ui/book/figures'
import { AskForm } from './ask-form'
import { AcquaintForm } from './acquaint-form'

export interface TieActions {
  say: (person: number, how: unknown) => Promise<ActionResult<unknown>>
  acquaint: (person: number, other: number, how: unknown) => Promise<ActionResult<unknown>>
  ask: (input: unknown) => Promise<ActionResult<number>>
  answer: (id: number, accepted: boolean, answer: unknown) => Promise<ActionResult<unknown>>
  takeBack: (id: number) => Promise<ActionResult<unknown>>
}

const OVERLAP = { yes: 'at the same time', no: 'not at the same time', unknown: 'it is not known whether at the same time' } as const

/** Who of the team knows somebody and who outside does, with what shows it; introductions are asked for and answered here. */
export function WhoKnowsThem({ knows, actions }: { knows: WhoKnows; actions: TieActions }) {
  const router = useRouter()
  const [told, setTold] = useState<string | null>(null)
  const [asking, setAsking] = useState<{ user: string; name: string } | null>(null)
  const [busy, begin] = useTransition()
  const run = (work: () => Promise<ActionResult<unknown>>) =>
    begin(async () => {
      const done = await work()
      setTold(done.ok ? null : done.error)
      if (done.ok) setAsking(null)
      router.refresh()
    })
  const others = knows.employers.filter(({ overlap }) => overlap !== 'yes')
  return (
    <section className="mb-5" aria-label="Who knows them">
      <h2>Who knows them</h2>
      {told && (
        <p role="alert" className="told mt-1">
          {told}
        </p>
      )}
      {knows.colleagues.length === 0 && <p className="quiet">Nobody on the team has dealt with them yet.</p>}
      <ul>
        {knows.colleagues.map(({ user, name, ties }) => (
          <li key={user} className="flex items-start justify-between gap-3 border-b border-rule py-1.5">
            <span>
              <b>{user === knows.me ? 'You' : name}</b>
              {ties.slice(0, 4).map((tie) => (
                <span key={`${tie.kind} ${tie.evidence}`} className="quiet block">
                  {tie.kind === 'through somebody' ? tie.evidence : `${tie.kind}, ${tie.evidence}`}
                </span>
              ))}
            </span>
            {user !== knows.me && (
              <button type="button" className="font-semibold whitespace-nowrap text-verdigris" onClick={() => setAsking({ user, name })}>
                Ask for an introduction
              </button>
            )}
          </li>
        ))}
      </ul>
      {asking && (
        <AskForm
          name={asking.name}
          through={knows.outside}
          busy={busy}
          onAsk={(through, note) => run(() => actions.ask({ person: knows.person, of: asking.user, through, note }))}
          onCancel={() => setAsking(null)}
        />
      )}
      {others.map(({ user, name, organisation, from, to, overlap }) => (
        <p key={`${user} ${organisation} ${from}`} className="quiet mt-1">
          {user === knows.me ? 'You were' : `${name} was`} at {organisation} too ({dateText(from)} to {to === null ? 'today' : dateText(to)}
          ): {OVERLAP[overlap]}.
        </p>
      ))}
      {knows.outside.length > 0 && (
        <p className="mt-2">
          Outside the team{' '}
          {knows.outside.map((own, i) => (
            <span key={own.id}>
              {i > 0 && ', '}
              <Link prefetch={false} href={`/directory/people/${own.id}`}>
                {own.name}
              </Link>{' '}
              <span className="quiet">({own.how})</span>{' '}
              <button
                type="button"
                className="text-soft hover:text-ink"
                aria-label={`${own.name} does not know them`}
                disabled={busy}
                onClick={() => run(() => actions.acquaint(knows.person, own.id, null))}
              >
                ×
              </button>
            </span>
          ))}{' '}
          {knows.outside.length === 1 ? 'knows' : 'know'} them.
        </p>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <label className="flex items-center gap-2">
          I
          <select
            aria-label="Whether you know them"
            value={knows.own ?? ''}
            disabled={busy}
            onChange={(event) => run(() => actions.say(knows.person, event.target.value || null))}
          >
            <option value="">do not know them</option>
            {OWN_TIES.map((how) => (
              <option key={how} value={how}>
                {how === 'knows well' ? 'know them well' : how === 'worked with' ? 'worked with them' : 'met them'}
              </option>
            ))}
          </select>
        </label>
        <AcquaintForm
          person={knows.person}
          busy={busy}
          onAcquaint={(other, how) => run(() => actions.acquaint(knows.person, other, how))}
        />
      </div>
      {knows.introductions.map((own) => (
        <Introduction key={own.id} own={own} busy={busy} run={run} actions={actions} />
      ))}
    </section>
  )
}

function Introduction({
  own,
  busy,
  run,
  actions,
}: {
  own: IntroductionView
  busy: boolean
  run: (work: () => Promise<ActionResult<unknown>>) => void
  actions: TieActions
}) {
  const [answer, setAnswer] = useState('')
  return (
    <div className="said mt-2">
      <p>
        {own.by} asked {own.of} for an introduction on {day(own.at)}
        {own.through ? `, through ${own.through}` : ''}
        {own.state === 'asked' ? '.' : `: ${own.state}.`}
        {own.note && <span className="quiet block">{own.note}</span>}
        {own.answer && <span className="quiet block">{own.answer}</span>}
      </p>
      {own.mine === 'to answer' && (
        <div className="mt-1 flex flex-wrap items-center gap-2">
          <input
            aria-label="Your answer"
            placeholder="A word with it"
            value={answer}
            maxLength={1000}
            onChange={(event) => setAnswer(event.target.value)}
          />
          <button
            type="button"
            className="button button-main"
            disabled={busy}
            onClick={() => run(() => actions.answer(own.id, true, answer))}
          >
            Accept
          </button>
          <button type="button" className="button" disabled={busy} onClick={() => run(() => actions.answer(own.id, false, answer))}>
            Decline
          </button>
        </div>
      )}
      {own.mine === 'asked' && (
        <button
          type="button"
          className="mt-1 font-semibold text-verdigris"
          disabled={busy}
          onClick={() => run(() => actions.takeBack(own.id))}
        >
          Take it back
        </button>
      )}
    </div>
  )
}

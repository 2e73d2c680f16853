'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useEffect, useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { Letter, LetterCheck, LetterPage } from '@/core/views/letter-views'
import { useAsked } from '@/ui/book/asking'
import { day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { Arch } from './arch'
import { LetterForm } from './letter-form'
import { LetterPreview } from './letter-preview'
import { MailProgress } from './mail-progress'
import { roundStones } from './round-stones'

export interface LetterActions {
  saveLetter: (round: number, letter: Letter, seen: string) => Promise<ActionResult<unknown>>
  tryLetter: (round: number, letter: Letter, n: number) => Promise<ActionResult<string>>
  sendEmails: (round: number, how: { seen: string; perMinute: number }) => Promise<ActionResult<unknown>>
  pauseEmails: (round: number) => Promise<ActionResult<unknown>>
  resumeEmails: (round: number) => Promise<ActionResult<unknown>>
}

/** How long nothing is typed before a letter is held against its readers, in milliseconds. */
const PAUSE = 350

/** The emails of a round: the letter, or how far it is, on the left; on the right as each of its readers gets it. */
export function LetterScreen({ page, actions }: { page: LetterPage; actions: LetterActions }) {
  const router = useRouter()
  const kept = JSON.stringify(page.letter)
  const [letter, setLetter] = useState(page.letter)
  const [asked, setAsked] = useState(page.letter)
  const [n, setN] = useState(0)
  const [told, setTold] = useState<string | null>(null)
  const [said, setSaid] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  useEffect(() => {
    const timer = setTimeout(() => setAsked(letter), PAUSE)
    return () => clearTimeout(timer)
  }, [letter])
  const check = useAsked<LetterCheck>([`/api/rounds/${page.id}/letter`, { letter: asked, n }], { hold: true })
  const run = <T,>(work: () => Promise<ActionResult<T>>, after?: (value: T) => void) =>
    begin(async () => {
      setTold(null)
      setSaid(null)
      const done = await work()
      if (done.ok) after?.(done.value)
      else setTold(done.error)
      router.refresh()
    })
  const saved = page.saved !== null && JSON.stringify(letter) === kept
  return (
    <Spread
      width="600px"
      label={{ left: 'The email', right: 'As they get it' }}
      left={
        <>
          <h1>
            Email · Round {page.called} of {page.list}
          </h1>
          <p className="quiet">
            {page.begun
              ? 'The letter as it left.'
              : page.saved
                ? `Saved ${day(page.saved.at)} by ${page.saved.by}. The next round of the list begins with the same letter.`
                : 'Nobody has written it yet. It is kept with the list, for its later rounds, too.'}
          </p>
          <div className="my-3 flex items-end gap-6">
            <Arch
              stones={roundStones(
                page.state,
                {
                  requalify: page.hasEarlier ? `/lists/${page.listId}/requalify` : `/lists/${page.listId}`,
                  screen: `/rounds/${page.id}`,
                  ...(page.check || page.state === 'being built' ? { check: `/rounds/${page.id}/check` } : {}),
                  contact: `/rounds/${page.id}/letter`,
                  ...(page.state === 'being built' ? {} : { results: `/rounds/${page.id}/results` }),
                },
                page.check && { passed: page.check.outcome === 'passes', ended: page.check.ended },
                page.open > 0,
              )}
            />
            <Link href={`/rounds/${page.id}`} className="button">
              Back to the round
            </Link>
          </div>
          {told && (
            <p role="alert" className="told mb-2">
              {told}
            </p>
          )}
          {said && (
            <p role="status" className="said mb-2">
              {said}
            </p>
          )}
          {page.begun ? (
            <MailProgress
              round={page.id}
              busy={busy}
              mayAct={page.state === 'released'}
              onPause={() => run(() => actions.pauseEmails(page.id))}
              onResume={() => run(() => actions.resumeEmails(page.id))}
            />
          ) : (
            <LetterForm
              page={page}
              letter={letter}
              check={check.answer && !check.held && asked === letter ? check.answer : null}
              saved={saved}
              busy={busy}
              onChange={setLetter}
              onSave={() =>
                run(
                  () => actions.saveLetter(page.id, letter, page.saved?.at ?? ''),
                  () => setSaid('The letter is saved.'),
                )
              }
              onTry={() =>
                run(
                  () => actions.tryLetter(page.id, letter, n),
                  (to) => setSaid(`One was sent to ${to}.`),
                )
              }
              onSend={(perMinute) => run(() => actions.sendEmails(page.id, { seen: page.saved?.at ?? '', perMinute }))}
            />
          )}
        </>
      }
      right={<LetterPreview check={check.answer ?? null} told={check.told} onChoose={setN} />}
    />
  )
}

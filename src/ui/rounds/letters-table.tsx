'use client'

import Link from 'next/link'
import { dateText } from '@/core/text/written'
import type { HeldPremisesRow, LetterOutcome, LetterRow } from '@/core/views/premises-round-views'
import { count } from '@/ui/book/figures'

const HEARD: [Exclude<LetterOutcome, 'stopped'>, string][] = [
  ['answered', 'Answered'],
  ['came back', 'Came back'],
  ['asked us to stop', 'Asked us to stop'],
]

/** The letters of a round: to whom and where each goes, about which premises, and what became of it. */
export function LettersTable({
  letters,
  released,
  onHeard,
}: {
  letters: readonly LetterRow[]
  released: boolean
  /** Records what was heard of a letter; absent where this person may not. */
  onHeard?: (letter: number, heard: string | null) => void
}) {
  return (
    <table className="account mt-2 w-full" aria-label="Letters">
      <thead>
        <tr>
          <th scope="col" className="figure">
            No.
          </th>
          <th scope="col">To</th>
          <th scope="col">About</th>
          {released && <th scope="col">Became of it</th>}
        </tr>
      </thead>
      <tbody>
        {letters.map((letter) => (
          <tr key={letter.number}>
            <td className="figure align-top">{count(letter.number)}</td>
            <td className="align-top">
              <span className="font-semibold">{letter.addressee}</span>
              <span className="quiet block">{letter.place}</span>
            </td>
            <td className="align-top">
              <Link prefetch={false} href={`/directory/premises/${letter.premises}`}>
                {letter.about}
              </Link>
            </td>
            {released && (
              <td className="align-top">
                <Became letter={letter} {...(onHeard ? { onHeard } : {})} />
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Became({ letter, onHeard }: { letter: LetterRow; onHeard?: (letter: number, heard: string | null) => void }) {
  const number = letter.number as number
  if (letter.outcome === 'stopped') return <span className="text-madder">Stopped before it was posted</span>
  if (letter.postedOn === null)
    return letter.stopped ? (
      <span className="text-madder">Must not leave: {letter.stopped}</span>
    ) : (
      <span className="quiet">Not posted yet</span>
    )
  const posted = <span className="quiet block">Posted {dateText(letter.postedOn)}</span>
  if (letter.outcome === 'asked us to stop' || !onHeard)
    return (
      <>
        {HEARD.find(([key]) => key === letter.outcome)?.[1]}
        {posted}
      </>
    )
  return (
    <>
      <select
        aria-label={`What was heard of letter ${number}`}
        value={letter.outcome ?? ''}
        onChange={(event) => onHeard(number, event.target.value || null)}
      >
        <option value="">Nothing heard</option>
        {HEARD.map(([key, title]) => (
          <option key={key} value={key}>
            {title}
          </option>
        ))}
      </select>
      {posted}
    </>
  )
}

/** Premises that get no letter, or that joined or left, each with why. */
export function HeldPremisesTable({ held, why }: { held: readonly HeldPremisesRow[]; why: string }) {
  return (
    <table className="account mt-2 w-full" aria-label="Premises">
      <thead>
        <tr>
          <th scope="col">Premises</th>
          <th scope="col">{why}</th>
        </tr>
      </thead>
      <tbody>
        {held.map((own) => (
          <tr key={own.id}>
            <td>
              <Link prefetch={false} href={`/directory/premises/${own.id}`}>
                {own.name}
              </Link>
            </td>
            <td>
              {own.rule}
              {own.detail && <span className="quiet"> · {own.detail}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

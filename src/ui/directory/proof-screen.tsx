'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { dateText } from '@/core/text/written'
import type { ReadablePage } from '@/core/views/sections'
import { Spread } from '@/ui/book/spread'

/** Each line once: what is said twice tells no more. */
const once = <T,>(lines: readonly T[]): T[] => lines.filter((line, i) => lines.findIndex((other) => String(other) === String(line)) === i)

/** Why somebody was contacted on a day, or why not: the day on the left, the proof on the right. */
export function ProofScreen({
  id,
  name,
  day,
  today,
  days,
  proof,
  mayDownload,
}: {
  id: number
  name: string
  day: string
  today: string
  /** The last days on which they were contacted. */
  days: string[]
  proof: ReadablePage
  mayDownload: boolean
}) {
  const router = useRouter()
  const to = (on: string) => `/directory/people/${id}/proof?day=${on}`
  return (
    <Spread
      width="360px"
      label={{ left: 'The day', right: 'The proof' }}
      left={
        <>
          <p className="quiet">
            <Link href={`/directory/people/${id}`}>{name}</Link>
          </p>
          <h1>Why contacted, why not</h1>
          <p className="quiet">
            What was decided and on what grounds, as it was known on a day: for whoever asks why they heard from you, or why they did not.
          </p>
          <label className="field mt-4 max-w-[200px]">
            <span>Day</span>
            <input type="date" value={day} max={today} onChange={(event) => event.target.value && router.push(to(event.target.value))} />
          </label>
          {days.length > 0 && (
            <>
              <h2 className="mt-4 text-[15px]">Days with a contact</h2>
              <ul className="mt-1 grid gap-0.5">
                {days.map((own) => (
                  <li key={own}>
                    <Link
                      href={to(own)}
                      prefetch={false}
                      aria-current={own === day ? 'date' : undefined}
                      className={`inline-block min-h-6 ${own === day ? 'font-bold' : ''}`}
                    >
                      {dateText(own)}
                    </Link>
                  </li>
                ))}
              </ul>
            </>
          )}
          {mayDownload && (
            <p className="mt-5">
              <a className="button" href={`/directory/people/${id}/proof/file?day=${day}`} download>
                Download as a page to send
              </a>
            </p>
          )}
        </>
      }
      right={
        <>
          <h2 className="break-words">{proof.title}</h2>
          <p className="quiet">{proof.about}</p>
          {proof.sections.map((section) => (
            <section key={section.title} className="mt-4" aria-label={section.title}>
              <h3 className="font-semibold">{section.title}</h3>
              {section.lines.length === 0 ? (
                <p className="text-soft">Nothing.</p>
              ) : (
                <dl className="mt-1 grid grid-cols-[minmax(110px,auto)_1fr] gap-x-4 gap-y-1">
                  {once(section.lines).map((line) => (
                    <div key={String(line)} className="contents">
                      <dt className="text-soft">{typeof line === 'string' ? '' : line[0]}</dt>
                      <dd className="break-words">{typeof line === 'string' ? line : line[1]}</dd>
                    </div>
                  ))}
                </dl>
              )}
            </section>
          ))}
        </>
      }
    />
  )
}

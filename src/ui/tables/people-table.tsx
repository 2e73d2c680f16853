'use client'

import { timeText } from '@/core/text/written'
import { useVirtualizer } from '@tanstack/react-virtual'
import Link from 'next/link'
import { useEffect, useRef } from 'react'
import type { PersonView } from '@/core/views/record-views'
import { count, day } from '@/ui/book/figures'
import { Reach } from './reach'
import type { People } from './use-people'
import { YearStrip } from './year-strip'
import { CHANNEL_NAME } from '@/core/records/channels'

/** People that can be chosen, one by one, wherever they stand in the table. */
export interface Choosing {
  chosen: ReadonlySet<number>
  onChoose: (id: number, on: boolean) => void
}

/** Beyond some 16 million pixels browsers place letters and lines askew (seen at 20 million): single precision ends there. */
export const MOST_ROWS = 300_000

/**
 * A table of people that holds only what is in view. `because` is the heading of the column that says why, if any;
 * `beside` draws what can be done with one of them.
 */
export function PeopleTable({
  people,
  because,
  empty,
  label,
  choosing,
  beside,
}: {
  people: People
  because?: string
  empty: string
  label: string
  choosing?: Choosing
  beside?: (person: PersonView) => React.ReactNode
}) {
  const anchor = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({
    count: Math.min(people.total ?? 0, MOST_ROWS),
    getScrollElement: () => anchor.current?.closest<HTMLElement>('.leaf') ?? null,
    estimateSize: () => 51,
    overscan: 12,
    scrollMargin: anchor.current?.offsetTop ?? 0,
  })
  const items = rows.getVirtualItems()
  const first = items[0]?.index ?? 0
  const last = items[items.length - 1]?.index ?? 0
  const { want } = people
  useEffect(() => {
    if (people.total) {
      want(first)
      want(last)
    }
  })
  const above = items.length > 0 ? items[0].start - rows.options.scrollMargin : 0
  const below = items.length > 0 ? rows.getTotalSize() - (items[items.length - 1].end - rows.options.scrollMargin) : 0
  return (
    <div ref={anchor}>
      {people.told && (
        <p role="status" className="told mt-3">
          {people.told}
        </p>
      )}
      {people.behind && (
        <p role="status" className="quiet mt-2">
          As of {timeText(new Date(people.behind))}: the database has not responded since.
        </p>
      )}
      {people.total === 0 && <p className="mt-6 text-soft">{empty}</p>}
      {(people.total ?? 0) > 0 && (
        <table className="people" aria-label={label} aria-rowcount={(people.total ?? 0) + 1}>
          <colgroup>
            {choosing && <col className="w-[30px]" />}
            <col className="person w-[36%]" />
            {because ? (
              <>
                <col className="w-[24%]" />
                <col />
              </>
            ) : (
              <>
                <col className="wide-only w-[15%]" />
                <col className="w-[19%]" />
                <col className="wide-only w-[13%]" />
                <col />
              </>
            )}
          </colgroup>
          <thead>
            <tr>
              {choosing && <ChooseTitle />}
              <th scope="col">Person</th>
              {because ? (
                <>
                  <th scope="col">Reach</th>
                  <th scope="col">{because}</th>
                </>
              ) : (
                <>
                  <th scope="col" className="wide-only">
                    Place
                  </th>
                  <th scope="col">Reach</th>
                  <th scope="col" className="wide-only">
                    A year
                  </th>
                  <th scope="col">Last dealt with</th>
                </>
              )}
            </tr>
          </thead>
          <tbody>
            {above > 0 && <tr aria-hidden="true" style={{ height: above }} />}
            {items.map(({ index }) => (
              <tr key={index} data-index={index} ref={rows.measureElement} aria-rowindex={index + 2}>
                <Row person={people.at(index)} because={because !== undefined} choosing={choosing} beside={beside} />
              </tr>
            ))}
            {below > 0 && <tr aria-hidden="true" style={{ height: below }} />}
          </tbody>
        </table>
      )}
      {(people.total ?? 0) > MOST_ROWS && (
        <p className="quiet mt-3">
          These are the first {count(MOST_ROWS)} of {count(people.total)}. Find or narrow to see the others; the figures and the files have
          all of them.
        </p>
      )}
    </div>
  )
}

/** The heading of the column that chooses. */
export function ChooseTitle() {
  return (
    <th scope="col" className="w-[30px]">
      <span className="sr-only">Choose</span>
    </th>
  )
}

export function ChooseCell({ id, name, choosing }: { id: number; name: string; choosing: Choosing }) {
  return (
    <td>
      <input
        type="checkbox"
        className="mt-1"
        aria-label={`Choose ${name}`}
        checked={choosing.chosen.has(id)}
        onChange={(event) => choosing.onChoose(id, event.target.checked)}
      />
    </td>
  )
}

function Row({
  person,
  because,
  choosing,
  beside,
}: {
  person: PersonView | undefined
  because: boolean
  choosing?: Choosing
  beside?: (person: PersonView) => React.ReactNode
}) {
  if (!person)
    return (
      <td colSpan={(because ? 3 : 5) + (choosing ? 1 : 0)} className="h-[51px] text-rule">
        …
      </td>
    )
  return (
    <>
      {choosing && <ChooseCell id={person.id} name={person.name} choosing={choosing} />}
      <td>
        <Link prefetch={false} href={`/directory/people/${person.id}`} className="text-[14px] font-semibold no-underline hover:underline">
          {person.name}
        </Link>
        <span className="quiet block">{[person.role, person.organisation].filter(Boolean).join(', ') || 'no role or organisation'}</span>
      </td>
      {because ? (
        <>
          <td>
            <Reach reach={person.reach} />
          </td>
          <td>
            <span className="block text-[13.5px] font-medium">{person.because?.title}</span>
            {person.because?.detail && <span className="quiet block">{person.because.detail}</span>}
            {beside?.(person)}
          </td>
        </>
      ) : (
        <>
          <td className="wide-only">{person.place ?? <span className="text-soft">–</span>}</td>
          <td>
            <Reach reach={person.reach} />
          </td>
          <td className="wide-only">
            <YearStrip strip={person.strip} />
          </td>
          <td>
            {person.last ? (
              `${day(person.last.at)} · ${person.last.result ?? CHANNEL_NAME[person.last.channel]}`
            ) : (
              <span className="text-soft">never</span>
            )}
          </td>
        </>
      )}
    </>
  )
}

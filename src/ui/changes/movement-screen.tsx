'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { LevelTold, Movement } from '@/core/changes/movement'
import { dateText } from '@/core/text/written'
import type { MovementPage, MoverView } from '@/core/views/movement-views'
import { count, Figure } from '@/ui/book/figures'
import { MakeList } from '@/ui/book/make-list'
import { Spread } from '@/ui/book/spread'

/** Which people are shown: those of one figure. */
interface Shown {
  figure: 'opening' | 'closing' | 'changed in' | 'changed out' | Movement
  level: LevelTold | null
}

const TITLE: Record<Shown['figure'], string> = {
  opening: 'Known there at the opening',
  closing: 'Known there now',
  'changed in': 'Came from another level',
  'changed out': 'Went to another level',
  arrived: 'Arrived',
  'newly known': 'Newly known',
  raised: 'Raised',
  lowered: 'Lowered',
  unclear: 'Another role, the level is not known',
  left: 'Left',
  stayed: 'Stayed',
}

const CHANGED: readonly Movement[] = ['raised', 'lowered', 'unclear']

function isShown({ figure, level }: Shown, mover: MoverView): boolean {
  const at = (own: LevelTold | null) => own !== null && (level === null || own === level)
  switch (figure) {
    case 'opening':
      return at(mover.before)
    case 'closing':
      return at(mover.after)
    case 'changed in':
      return at(mover.after) && CHANGED.includes(mover.movement)
    case 'changed out':
      return at(mover.before) && CHANGED.includes(mover.movement)
    case 'left':
      return at(mover.before) && mover.movement === 'left'
    default:
      return at(mover.after) && mover.movement === figure
  }
}

/** Who arrived, rose, fell and left at organisations over a period, as an account; each figure shows its people. */
export function MovementScreen({ page }: { page: MovementPage }) {
  const router = useRouter()
  const [shown, setShown] = useState<Shown>({ figure: 'arrived', level: null })
  const of = (next: Shown) => page.people.filter((mover) => isShown(next, mover))
  const people = of(shown)
  const total = (figure: Shown['figure']) => of({ figure, level: null }).length
  const query = (days: number) => {
    const words = new URLSearchParams()
    if (page.of.organisation !== null) words.set('organisation', String(page.of.organisation))
    if (page.of.list !== null) words.set('list', String(page.of.list))
    words.set('days', String(days))
    return `/changes/movement?${words}`
  }
  const figure = (value: number, tone: 'out' | 'in' | 'plain', next: Shown) => (
    <Figure
      value={value}
      tone={tone}
      label={`${TITLE[next.figure]}${next.level ? `, ${next.level}` : ''}`}
      chosen={shown.figure === next.figure && shown.level === next.level}
      onChoose={() => setShown(next)}
    />
  )
  const lines: [figure: Shown['figure'], tone: 'out' | 'in'][] = [
    ['arrived', 'in'],
    ['newly known', 'in'],
    ['left', 'out'],
  ]
  let balance = total('opening')
  return (
    <Spread
      width="600px"
      label={{ left: 'The account of movement', right: 'The people of one figure' }}
      left={
        <>
          <p className="quiet">
            <Link href="/changes">Changes</Link>
          </p>
          <h1>Movement of people</h1>
          <p className="quiet">
            {page.name} · since {dateText(page.since)} · {count(page.organisations)}{' '}
            {page.organisations === 1 ? 'organisation' : 'organisations'}
            {page.capped && ', of which the first 5,000 are told of'}
          </p>
          <label className="field mt-2 max-w-[180px]">
            <span>Look back</span>
            <select value={String(page.days)} onChange={(event) => router.push(query(Number(event.target.value)))}>
              {[...new Set([30, 90, 180, 366, page.days])]
                .sort((a, b) => a - b)
                .map((days) => (
                  <option key={days} value={days}>
                    {days === 366 ? 'a year' : `${days} days`}
                  </option>
                ))}
            </select>
          </label>
          <table className="account mt-3" aria-label="Movement">
            <thead>
              <tr>
                <th scope="col">People we know there</th>
                <th scope="col" className="figure">
                  Out
                </th>
                <th scope="col" className="figure">
                  In
                </th>
                <th scope="col" className="figure balance">
                  Balance
                </th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td>
                  <b>Open</b> with whom we knew
                </td>
                <td />
                <td />
                <td className="figure balance">{figure(balance, 'plain', { figure: 'opening', level: null })}</td>
              </tr>
              {lines.map(([name, tone]) => {
                const n = total(name)
                balance += tone === 'in' ? n : -n
                return (
                  <tr key={name}>
                    <td>
                      <b className="font-semibold">{TITLE[name]}</b>
                      {name === 'newly known' && (
                        <span className="quiet block">came into the directory; they may have been there before</span>
                      )}
                    </td>
                    <td className="figure">{tone === 'out' && figure(n, 'out', { figure: name, level: null })}</td>
                    <td className="figure">{tone === 'in' && figure(n, 'in', { figure: name, level: null })}</td>
                    <td className="figure balance">{count(balance)}</td>
                  </tr>
                )
              })}
              <tr className="total">
                <td>
                  Known there now{' '}
                  <span className="quiet font-normal">
                    of whom {count(total('raised'))} raised, {count(total('lowered'))} lowered
                  </span>
                </td>
                <td />
                <td />
                <td className="figure balance">{figure(total('closing'), 'plain', { figure: 'closing', level: null })}</td>
              </tr>
            </tbody>
          </table>
          <table className="account mt-5" aria-label="Movement by level">
            <thead>
              <tr>
                <th scope="col">Level</th>
                {['Opening', 'Arrived', 'Known', 'From a level', 'To a level', 'Left'].map((title) => (
                  <th key={title} scope="col" className="figure">
                    {title}
                  </th>
                ))}
                <th scope="col" className="figure balance">
                  Now
                </th>
              </tr>
            </thead>
            <tbody>
              {page.levels.map((own) => (
                <tr key={own.level}>
                  <td className="first-letter:uppercase">{own.level}</td>
                  <td className="figure">{figure(own.opening, 'plain', { figure: 'opening', level: own.level })}</td>
                  <td className="figure">{figure(own.arrived, 'in', { figure: 'arrived', level: own.level })}</td>
                  <td className="figure">{figure(own.known, 'in', { figure: 'newly known', level: own.level })}</td>
                  <td className="figure">{figure(own.from, 'in', { figure: 'changed in', level: own.level })}</td>
                  <td className="figure">{figure(own.to, 'out', { figure: 'changed out', level: own.level })}</td>
                  <td className="figure">{figure(own.left, 'out', { figure: 'left', level: own.level })}</td>
                  <td className="figure balance">{figure(own.closing, 'plain', { figure: 'closing', level: own.level })}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      }
      right={
        <>
          <div className="flex items-center justify-between gap-3">
            <h2>
              {TITLE[shown.figure]}
              {shown.level && `: ${shown.level}`}{' '}
              <span className="font-sans text-[13px] font-normal text-soft">{count(people.length)}</span>
            </h2>
            {people.length > 0 && <MakeList these={{ of: 'person', ids: people.map((p) => p.id) }}>Make a list of these</MakeList>}
          </div>
          {people.length === 0 && <p className="mt-2 text-soft">Nobody.</p>}
          {people.length > SHOWN && <p className="quiet">The first {count(SHOWN)} are shown; the list holds all of them.</p>}
          <ul className="mt-1">
            {people.slice(0, SHOWN).map((mover) => (
              <li key={mover.id} className="border-b border-rule py-2">
                <Link prefetch={false} href={`/directory/people/${mover.id}`} className="font-semibold no-underline hover:underline">
                  {mover.name}
                </Link>{' '}
                <span className="text-[13px] text-soft">{mover.organisation ?? 'no organisation'}</span>
                <span className="quiet block">{howText(mover)}</span>
              </li>
            ))}
          </ul>
        </>
      }
    />
  )
}

const SHOWN = 300

function howText(mover: MoverView): string {
  const role = mover.role ?? 'no role'
  switch (mover.movement) {
    case 'arrived':
      return `${role} · from ${mover.other ?? 'somewhere we do not know'}${mover.dealt ? ', which we have worked with' : ''}`
    case 'left':
      return `${mover.roleThen ?? 'no role'} there · ${mover.other ? `now at ${mover.other}` : 'where to is not known'}`
    case 'raised':
    case 'lowered':
    case 'unclear':
      return `${mover.roleThen ?? 'no role'} → ${role}`
    default:
      return role
  }
}

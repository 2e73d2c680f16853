'use client'

import { useViewInAddress } from '@/ui/book/view-in-address'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { ListIndexRow } from '@/core/views/list-views'
import type { RoundIndexRow } from '@/core/views/round-views'
import { SUBJECT_NAMES, SUBJECTS } from '@/core/records/subject'
import { STARTING_LISTS } from '@/core/lists/starting'
import type { FirstStep } from '@/core/views/first-step'
import { FirstSteps } from '@/ui/book/first-steps'
import { Arch } from '@/ui/rounds/arch'
import { count, day } from '@/ui/book/figures'
import { roundStones } from '@/ui/rounds/round-stones'
import { Spread } from '@/ui/book/spread'

/** The index of lists: those to work on, those archived, and the first steps where there is none. */
export function ListIndex({
  lists,
  rounds,
  newList,
  steps,
  deleted,
  restore,
}: {
  lists: ListIndexRow[]
  rounds: RoundIndexRow[]
  newList: (name: string, shared: boolean, begin: string) => Promise<ActionResult<number>>
  steps: FirstStep[] | null
  deleted: number | null
  restore: (id: number) => Promise<ActionResult<string>>
}) {
  const [view, setView] = useViewInAddress<{ label?: string; archived?: 'yes' }>({}, ({ label, archived: away }) => ({
    ...(label ? { label } : {}),
    ...(away === 'yes' ? { archived: 'yes' } : {}),
  }))
  const filter = { label: view.label ?? null, archived: view.archived === 'yes' }
  const setFilter = ({ label, archived: away }: typeof filter) =>
    setView({ ...(label === null ? {} : { label }), ...(away ? { archived: 'yes' } : {}) })
  const archived = lists.filter((list) => list.archived).length
  const shown = lists.filter((list) => list.archived === filter.archived && (filter.label === null || list.labels.includes(filter.label)))
  return (
    <Spread
      width="760px"
      label={{ left: 'Lists', right: 'Rounds under way' }}
      left={
        <>
          <div className="flex items-start justify-between gap-4">
            <div>
              <h1>Lists</h1>
              <p className="quiet">
                Lists shared with your team, and your private ones.{' '}
                <Link href="/lists/areas" className="font-semibold text-verdigris no-underline hover:underline">
                  Areas on the map
                </Link>
                {archived > 0 && (
                  <button
                    type="button"
                    className="ml-3 font-semibold text-verdigris"
                    onClick={() => setFilter({ label: null, archived: !filter.archived })}
                  >
                    {filter.archived ? 'Back to the lists in use' : `${archived} archived`}
                  </button>
                )}
                {filter.label !== null && (
                  <button
                    type="button"
                    className="ml-3 font-semibold text-verdigris"
                    onClick={() => setFilter({ label: null, archived: false })}
                  >
                    All, not only “{filter.label}”
                  </button>
                )}
              </p>
            </div>
            <NewList newList={newList} />
          </div>
          {deleted !== null && !lists.some((l) => l.id === deleted) && <Deleted id={deleted} restore={restore} />}
          {steps && <FirstSteps steps={steps} />}
          {lists.length === 0 ? (
            <p className="mt-8 text-soft">
              No lists yet. Name your first list. It starts with everyone in the directory, and each line you add narrows it.
            </p>
          ) : (
            <table className="account mt-4">
              <thead>
                <tr>
                  <th scope="col">List</th>
                  <th scope="col">Edition</th>
                  <th scope="col">Last round</th>
                  <th scope="col" className="figure balance">
                    Holds now
                  </th>
                </tr>
              </thead>
              <tbody>
                {shown.map((list) => (
                  <tr key={list.id}>
                    <td>
                      <Link prefetch={false} href={`/lists/${list.id}`} className="font-semibold no-underline hover:underline">
                        {list.name}
                      </Link>
                      {list.pinned && <span className="ml-1.5 rounded bg-ochre-wash px-1.5 text-[12px] text-ochre">at the top</span>}
                      {list.labels.map((label) => (
                        <button
                          key={label}
                          type="button"
                          className="ml-1.5 min-h-6 rounded bg-page px-1.5 text-[12px] text-soft hover:text-ink"
                          aria-label={`Only lists labelled ${label}`}
                          onClick={() => setFilter({ label, archived: false })}
                        >
                          {label}
                        </button>
                      ))}
                      <span className="quiet block">
                        {list.subject === 'person' ? '' : `Of ${SUBJECT_NAMES[list.subject]} · `}
                        {list.shared || !list.mine ? `Shared · ${list.mine ? 'yours' : list.owner}` : 'Private to you'}
                        {list.role !== 'edit' && ` · you may ${list.role === 'see' ? 'look' : 'use it'}`}
                        {list.proposals > 0 && list.role === 'edit' && (
                          <b className="ml-1.5 text-ochre">
                            {count(list.proposals)} {list.proposals === 1 ? 'proposal waits' : 'proposals wait'}
                          </b>
                        )}
                      </span>
                    </td>
                    <td>
                      {list.edition} <span className="quiet block">{day(list.savedAt)}</span>
                    </td>
                    <td>
                      {list.lastRound ? (
                        <>
                          <Link prefetch={false} href={`/rounds/${list.lastRound.id}`} className="no-underline hover:underline">
                            Round {list.lastRound.number}
                          </Link>
                          <span className="quiet block">
                            {list.lastRound.state} {day(list.lastRound.at)}
                          </span>
                        </>
                      ) : (
                        <span className="text-soft">none yet</span>
                      )}
                    </td>
                    <td className="figure balance">
                      {count(list.now?.on ?? list.balance)}
                      {list.draft && <span className="block text-[12.5px] font-semibold text-ochre">without your unsaved lines</span>}
                      {list.now ? (
                        list.now.fresh ? (
                          <span className="block text-[12.5px] font-semibold text-verdigris">{count(list.now.fresh)} new</span>
                        ) : null
                      ) : (
                        <span className="quiet block font-normal">when saved</span>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </>
      }
      right={
        <>
          <h2>Rounds under way</h2>
          {rounds.length === 0 && <p className="mt-3 text-soft">No round is open. Open a list to start its next round.</p>}
          <ul className="mt-3 grid gap-2">
            {rounds.map((round) => (
              <li key={round.id} className="flex items-center gap-4 border-b border-rule pb-2">
                <Arch stones={roundStones(round.state)} width={62} />
                <span>
                  <Link prefetch={false} href={`/rounds/${round.id}`} className="font-semibold no-underline hover:underline">
                    Round {round.called} · {round.list}
                  </Link>
                  <span className="quiet block">
                    {round.state === 'released'
                      ? `Released ${day(round.at)} by ${round.by}; ${count(round.toCome)} contacts to come`
                      : `Being built since ${day(round.at)}`}
                  </span>
                </span>
              </li>
            ))}
          </ul>
        </>
      }
    />
  )
}

/** A list that was just deleted can be had back with one press. */
function Deleted({ id, restore }: { id: number; restore: (id: number) => Promise<ActionResult<string>> }) {
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  return (
    <p role="status" className="said mt-3 flex items-center justify-between">
      {told || 'The list is deleted.'}
      <button
        type="button"
        className="button"
        disabled={busy}
        onClick={() =>
          begin(async () => {
            const result = await restore(id)
            if (!result.ok) setTold(result.error)
          })
        }
      >
        Undo
      </button>
    </p>
  )
}

function NewList({ newList }: { newList: (name: string, shared: boolean, begin: string) => Promise<ActionResult<number>> }) {
  const router = useRouter()
  const [name, setName] = useState('')
  const [shared, setShared] = useState(true)
  const [begin, setBegin] = useState('person')
  const [told, setTold] = useState('')
  const [busy, transition] = useTransition()
  const ready = STARTING_LISTS.find((l) => l.name === begin)
  return (
    <form
      className="grid justify-items-end gap-1"
      onSubmit={(event) => {
        event.preventDefault()
        transition(async () => {
          const made = await newList(name, shared, begin)
          if (made.ok) router.push(`/lists/${made.value}`)
          else setTold(made.error)
        })
      }}
    >
      <span className="flex gap-2">
        <input
          aria-label="Name of the new list"
          placeholder="Name of a new list"
          value={name}
          onChange={(e) => setName(e.target.value)}
          className="w-[210px]"
        />
        <select
          aria-label="What the list is of"
          className="max-w-[150px]"
          value={begin}
          onChange={(e) => {
            setBegin(e.target.value)
            // A list for a common job has a name to begin with.
            if (STARTING_LISTS.some((l) => l.name === e.target.value)) setName(e.target.value)
          }}
        >
          {SUBJECTS.map((s) => (
            <option key={s} value={s}>
              of {SUBJECT_NAMES[s]}
            </option>
          ))}
          {SUBJECTS.map((s) => (
            <option key={`none of ${s}`} value={`none of ${s}`}>
              of {SUBJECT_NAMES[s]}, empty
            </option>
          ))}
          <optgroup label="for a common job">
            {STARTING_LISTS.map((l) => (
              <option key={l.name} value={l.name}>
                {l.name}
              </option>
            ))}
          </optgroup>
        </select>
        <button type="submit" className="button button-main" disabled={busy || name.trim() === ''}>
          New list
        </button>
      </span>
      <label className="quiet flex items-center gap-1.5">
        <input type="checkbox" checked={shared} onChange={(e) => setShared(e.target.checked)} /> share it with the team
      </label>
      {begin.startsWith('none of ') && (
        <p className="quiet max-w-[420px] text-right">It starts empty. Pick records by hand, or add lines.</p>
      )}
      {ready && <p className="quiet max-w-[420px] text-right">{ready.what}</p>}
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
    </form>
  )
}

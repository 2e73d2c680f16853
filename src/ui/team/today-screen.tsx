'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import { weekdayText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'
import { MOVE_GROUPS, type MoveGroup, type TaskView, type TodayPage } from '@/core/views/today-views'
import { count, day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { recordPath } from '@/ui/changes/change-words'
import { type MakeTask, TaskForm } from './task-form'

export interface TodayActions {
  make: MakeTask
  done: (id: number, done: boolean) => Promise<ActionResult<unknown>>
  hand: (id: number, to: string) => Promise<ActionResult<unknown>>
  move: (id: number, due: string | null) => Promise<ActionResult<unknown>>
  want: (wanted: boolean) => Promise<ActionResult<unknown>>
}

const GROUP: Record<MoveGroup, string> = {
  changes: 'Changes that ask something of you',
  lists: 'Lists that are due',
  rounds: 'Rounds that wait for a step',
  registers: 'Registers that run out',
  records: 'Records to decide on',
  introductions: 'Introductions you are asked for',
  proposals: 'Proposals to answer',
  work: 'Work that failed',
}

/** The first page of the day: what is somebody's move, on the left by the place where it is done, on the right their tasks. */
export function TodayScreen({ page, actions }: { page: TodayPage; actions: TodayActions }) {
  const [adding, setAdding] = useState(false)
  const [busy, begin] = useTransition()
  const router = useRouter()
  const want = (wanted: boolean) =>
    begin(async () => {
      const done = await actions.want(wanted)
      if (!done.ok) toast.error(done.error)
      router.refresh()
    })
  const overdue = page.tasks.filter((task) => task.is === 'overdue').length
  return (
    <Spread
      width="540px"
      label={{ left: 'Your move', right: 'Your tasks' }}
      left={
        <>
          <h1>Today</h1>
          <p className="quiet">{weekdayText(page.today)}. Each line opens the place where it is done, and goes when it is done.</p>
          <label className="mt-1.5 flex items-center gap-2">
            <input type="checkbox" checked={page.digest} disabled={busy} onChange={(event) => want(event.target.checked)} />
            By email each morning
          </label>
          {page.moves.length === 0 && <p className="mt-4 text-soft">Nothing waits for you here.</p>}
          {page.moves.length > 0 && (
            <table className="account mt-2 table-fixed" aria-label="What waits for you">
              <colgroup>
                <col />
                <col className="w-[76px]" />
              </colgroup>
              {MOVE_GROUPS.map((group) => {
                const moves = page.moves.filter((move) => move.group === group)
                if (moves.length === 0) return null
                return (
                  <tbody key={group}>
                    <tr>
                      <th scope="rowgroup" colSpan={2} className="pt-3!">
                        {GROUP[group]}
                      </th>
                    </tr>
                    {moves.map((move) => (
                      <tr key={move.key}>
                        <td>
                          <Link href={move.href} className={`font-semibold no-underline hover:underline ${move.late ? 'text-madder' : ''}`}>
                            {move.text}
                          </Link>
                        </td>
                        <td className="figure balance">{move.n === null ? '' : count(move.n)}</td>
                      </tr>
                    ))}
                  </tbody>
                )
              })}
            </table>
          )}
        </>
      }
      right={
        <>
          <div className="flex items-baseline justify-between gap-3">
            <h2>
              Your tasks{' '}
              <span className="font-sans text-[13px] font-normal text-soft">
                {count(page.tasks.length)}
                {overdue > 0 && <span className="text-madder"> · {count(overdue)} overdue</span>}
              </span>
            </h2>
            <button type="button" className="button px-2! py-0.5!" aria-expanded={adding} onClick={() => setAdding(!adding)}>
              Add a task
            </button>
          </div>
          {adding && (
            <div className="my-2">
              <TaskForm
                about={null}
                colleagues={page.colleagues}
                me={page.me}
                today={page.today}
                make={actions.make}
                onDone={() => setAdding(false)}
              />
            </div>
          )}
          <Tasks tasks={page.tasks} page={page} actions={actions} none="No task of yours waits." />
          {page.given.length > 0 && (
            <>
              <h2 className="mt-6">Tasks you gave to others</h2>
              <Tasks tasks={page.given} page={page} actions={actions} none="" />
            </>
          )}
          {page.team && (
            <>
              <h2 className="mt-6">The team</h2>
              <table className="people mt-1">
                <thead>
                  <tr>
                    <th scope="col">Who</th>
                    <th scope="col">Tasks</th>
                    <th scope="col">Overdue</th>
                    <th scope="col">Changes taken</th>
                  </tr>
                </thead>
                <tbody>
                  {page.team.map((colleague) => (
                    <tr key={colleague.id}>
                      <td>{colleague.name}</td>
                      <td>{count(colleague.open)}</td>
                      <td className={colleague.overdue > 0 ? 'text-madder' : ''}>{count(colleague.overdue)}</td>
                      <td>{count(colleague.taken)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </>
          )}
        </>
      }
    />
  )
}

function Tasks({ tasks, page, actions, none }: { tasks: TaskView[]; page: TodayPage; actions: TodayActions; none: string }) {
  const [busy, begin] = useTransition()
  const run = (work: () => Promise<ActionResult<unknown>>, said: string | null, back?: () => Promise<ActionResult<unknown>>) =>
    begin(async () => {
      const done = await work()
      if (!done.ok) return void toast.error(done.error)
      if (said) toast.success(said, back ? { duration: 12_000, action: { label: 'Undo', onClick: () => void back() } } : {})
    })
  if (tasks.length === 0) return <p className="mt-2 text-soft">{none}</p>
  return (
    <ul className="mt-1">
      {tasks.map((task) => (
        <li key={task.id} className="grid grid-cols-[28px_minmax(0,1fr)_auto] gap-2 border-b border-rule py-2">
          <input
            type="checkbox"
            className="mt-1 size-4"
            aria-label={`Done: ${task.what}`}
            checked={false}
            disabled={busy}
            onChange={() =>
              run(
                () => actions.done(task.id, true),
                `Done: ${task.what}`,
                () => actions.done(task.id, false),
              )
            }
          />
          <div className="min-w-0 break-words">
            <p>{task.what}</p>
            <p className="quiet">
              {task.about && (
                <Link
                  prefetch={false}
                  href={task.about.of === 'list' ? `/lists/${task.about.id}` : recordPath(task.about.of, task.about.id)}
                >
                  {task.about.name}
                </Link>
              )}
              {task.about && ' · '}
              <span className={task.is === 'overdue' ? 'font-semibold text-madder' : ''}>
                {task.due === null
                  ? 'no day'
                  : task.is === 'today'
                    ? 'today'
                    : `${task.is === 'overdue' ? 'was due' : 'by'} ${day(`${task.due}T12:00:00Z`)}`}
              </span>
              {task.forId !== page.me ? ` · for ${task.forName}` : task.by && ` · from ${task.by}`}
            </p>
          </div>
          <span className="flex items-start gap-1.5">
            <input
              type="date"
              aria-label={`Day of: ${task.what}`}
              className="w-[130px] py-0.5!"
              value={task.due ?? ''}
              disabled={busy}
              onChange={(event) => run(() => actions.move(task.id, event.target.value || null), null)}
            />
            <select
              aria-label={`Hand over: ${task.what}`}
              className="w-[120px] py-0.5!"
              value={task.forId}
              disabled={busy}
              onChange={(event) => {
                const to = event.target.value
                run(
                  () => actions.hand(task.id, to),
                  `Handed to ${page.colleagues.find((own) => own.id === to)?.name ?? ''}.`,
                  () => actions.hand(task.id, task.forId),
                )
              }}
            >
              {page.colleagues.map((colleague) => (
                <option key={colleague.id} value={colleague.id}>
                  {colleague.id === page.me ? 'me' : colleague.name}
                </option>
              ))}
            </select>
          </span>
        </li>
      ))}
    </ul>
  )
}

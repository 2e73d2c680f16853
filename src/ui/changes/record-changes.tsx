'use client'

import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import type { ActionResult } from '@/core/views/action-result'
import type { ChangeRow, RecordChanges } from '@/core/views/change-views'
import type { Subject } from '@/core/records/subject'
import { day } from '@/ui/book/figures'
import { type MakeTask, TaskForm } from '@/ui/team/task-form'
import { ReportForm } from './report-form'
import type { ChangeActions } from './change-actions'
import { effectText, sourceText, whatText, whenText } from './change-words'

export interface RecordChangeActions {
  makeTask: MakeTask
  act: ChangeActions['act']
  undecide: ChangeActions['undecide']
  report: (input: unknown) => Promise<ActionResult<unknown>>
  followRecord: (of: Subject, id: number, on: boolean) => Promise<ActionResult<unknown>>
}

/** What changed about one record, a way to report something, and to follow it. */
export function RecordChangesPart({ changes, actions }: { changes: RecordChanges; actions: RecordChangeActions }) {
  const router = useRouter()
  const [busy, begin] = useTransition()
  const [open, setOpen] = useState<'report' | 'task' | null>(null)
  const { of, id, rows, followed } = changes
  return (
    <section aria-label="Changes" className="mb-5">
      <div className="flex items-baseline justify-between gap-3">
        <h2>Changes</h2>
        <span className="flex gap-1.5">
          <button
            type="button"
            className="button px-2! py-0.5!"
            aria-pressed={followed}
            disabled={busy}
            onClick={() =>
              begin(async () => {
                const done = await actions.followRecord(of, id, !followed)
                if (!done.ok) toast.error(done.error)
              })
            }
          >
            {followed ? 'Following' : 'Follow'}
          </button>
          <button
            type="button"
            className="button px-2! py-0.5!"
            aria-expanded={open === 'task'}
            onClick={() => setOpen(open === 'task' ? null : 'task')}
          >
            Add a task
          </button>
          <button
            type="button"
            className="button px-2! py-0.5!"
            aria-expanded={open === 'report'}
            onClick={() => setOpen(open === 'report' ? null : 'report')}
          >
            Report a change
          </button>
        </span>
      </div>
      {open === 'report' && <ReportForm changes={changes} report={actions.report} onDone={() => setOpen(null)} />}
      {open === 'task' && (
        <div className="my-2">
          <TaskForm
            about={{ of, id }}
            colleagues={changes.colleagues}
            me={changes.me}
            today={changes.today}
            make={actions.makeTask}
            onDone={() => setOpen(null)}
          />
        </div>
      )}
      {changes.tasks.length > 0 && (
        <ul className="mt-1">
          {changes.tasks.map((task) => (
            <li key={task.id} className="quiet">
              Task: <span className="text-ink">{task.what}</span> · for {task.forId === changes.me ? 'you' : task.forName}
              {task.due && ` · by ${day(`${task.due}T12:00:00Z`)}`}
            </li>
          ))}
        </ul>
      )}
      {rows.length === 0 && <p className="quiet mt-1">No change on record.</p>}
      <ol>
        {rows.map((row) => (
          <li key={row.id} className="grid grid-cols-[92px_1fr_auto] gap-3 border-b border-rule py-2">
            <span className="text-soft">{whenText(row)}</span>
            <span className="min-w-0 break-words">
              <span className="font-medium">{[whatText(row).said, whatText(row).after].filter(Boolean).join(' ')}</span>
              {row.link && (
                <>
                  {' '}
                  <a href={row.link} rel="noreferrer noopener" target="_blank" className="text-verdigris">
                    source
                  </a>
                </>
              )}
              <span className="quiet block">{[sourceText(row), effectText(row)].filter(Boolean).join(' · ')}</span>
            </span>
            <span className="quiet text-right">
              {stateText(row)}
              {(row.state === 'handled' || row.state === 'set aside') && (
                <button
                  type="button"
                  className="mt-0.5 block w-full text-right font-semibold text-verdigris hover:underline"
                  disabled={busy}
                  onClick={() =>
                    begin(async () => {
                      const done = await (row.confirmed ? actions.undecide(row.id) : actions.act(row.id, 'reopen'))
                      if (done.ok) router.refresh()
                      else toast.error(done.error)
                    })
                  }
                >
                  {row.confirmed ? 'Take back' : 'Open again'}
                </button>
              )}
            </span>
          </li>
        ))}
      </ol>
    </section>
  )
}

function stateText(row: ChangeRow): string {
  if (row.state === 'open') return row.freshness
  return `${row.state}${row.stateBy ? ` by ${row.mine ? 'you' : row.stateBy}` : ''}`
}

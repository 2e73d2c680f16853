'use client'

import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import type { ActionResult } from '@/core/views/action-result'
import type { ChangeRow, RecordChanges } from '@/core/views/change-views'
import type { Subject } from '@/core/records/subject'
import { day } from '@/ui/book/figures'
import { type MakeTask, TaskForm } from '@/ui/team/task-form'
import { effectText, sourceText, whatText, whenText } from './change-words'

export interface RecordChangeActions {
  makeTask: MakeTask
  report: (input: unknown) => Promise<ActionResult<unknown>>
  followRecord: (of: Subject, id: number, on: boolean) => Promise<ActionResult<unknown>>
}

/** What changed about one record, a way to report something, and to follow it. */
export function RecordChangesPart({ changes, actions }: { changes: RecordChanges; actions: RecordChangeActions }) {
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
            <span className="quiet text-right">{stateText(row)}</span>
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

function ReportForm({ changes, report, onDone }: { changes: RecordChanges; report: RecordChangeActions['report']; onDone: () => void }) {
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  return (
    <form
      className="my-2 grid gap-2.5 rounded-lg border border-rule bg-leaf p-3"
      aria-label="Report a change"
      onSubmit={(event) => {
        event.preventDefault()
        const form = new FormData(event.currentTarget)
        begin(async () => {
          const done = await report({
            of: changes.of,
            record: changes.id,
            kind: Number(form.get('kind')),
            day: form.get('day'),
            stated: form.get('stated') === 'on',
            text: form.get('text') || null,
            link: form.get('link') || null,
          })
          setTold(done.ok ? null : done.error)
          if (!done.ok) return
          toast.success('Reported. It shows among the changes in a moment.')
          onDone()
        })
      }}
    >
      <div className="grid grid-cols-2 gap-2.5">
        <label className="field">
          <span>What happened</span>
          <select name="kind" required>
            {changes.kinds.map((kind) => (
              <option key={kind.id} value={kind.id}>
                {kind.name}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>Day</span>
          <input type="date" name="day" required max={changes.today} defaultValue={changes.today} />
        </label>
      </div>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" name="stated" defaultChecked /> It happened on that day. Otherwise: it was seen by then.
      </label>
      <label className="field">
        <span>In a few words</span>
        <input name="text" maxLength={1000} />
      </label>
      <label className="field">
        <span>Link, if there is one</span>
        <input name="link" type="url" maxLength={1000} />
      </label>
      <div className="flex gap-2">
        <button type="submit" className="button button-main" disabled={busy}>
          Report change
        </button>
        <button type="button" className="button" onClick={onDone}>
          Cancel
        </button>
      </div>
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
    </form>
  )
}

'use client'

import { useState, useTransition } from 'react'
import type { Subject } from '@/core/records/subject'
import type { ActionResult } from '@/core/views/action-result'

export type MakeTask = (input: unknown) => Promise<ActionResult<unknown>>

/** Makes a task: what, for whom, by when; about a record or a list where there is one. */
export function TaskForm({
  about,
  colleagues,
  me,
  today,
  make,
  onDone,
}: {
  about: { of: Subject | 'list'; id: number } | null
  colleagues: { id: string; name: string }[]
  me: string
  today: string
  make: MakeTask
  onDone: () => void
}) {
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  return (
    <form
      className="grid gap-2.5 rounded-lg border border-rule bg-leaf p-3"
      aria-label="Add a task"
      onSubmit={(event) => {
        event.preventDefault()
        const form = event.currentTarget
        const given = new FormData(form)
        begin(async () => {
          const done = await make({
            what: given.get('what'),
            forId: given.get('for'),
            due: given.get('due') || null,
            of: about?.of ?? null,
            id: about ? String(about.id) : null,
          })
          setTold(done.ok ? null : done.error)
          if (!done.ok) return
          form.reset()
          onDone()
        })
      }}
    >
      <label className="field">
        <span>What is to be done</span>
        <input name="what" required maxLength={500} />
      </label>
      <div className="grid grid-cols-2 gap-2.5">
        <label className="field">
          <span>For</span>
          <select name="for" defaultValue={me}>
            {colleagues.map((colleague) => (
              <option key={colleague.id} value={colleague.id}>
                {colleague.id === me ? 'me' : colleague.name}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>By, if there is a day</span>
          <input type="date" name="due" min={today} />
        </label>
      </div>
      <div className="flex gap-2">
        <button type="submit" className="button button-main" disabled={busy}>
          Add task
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

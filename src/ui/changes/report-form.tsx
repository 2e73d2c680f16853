'use client'

import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import type { ActionResult } from '@/core/views/action-result'
import type { RecordChanges } from '@/core/views/change-views'

const MOVES = [
  ['left', 'Left the organisation'],
  ['role', 'Has another role'],
  ['organisation', 'Is at another organisation'],
] as const
type Moved = (typeof MOVES)[number][0]

/** Reports by hand what happened to a record; of a person also that they left, with a successor, or moved. */
export function ReportForm({
  changes,
  report,
  onDone,
}: {
  changes: RecordChanges
  report: (input: unknown) => Promise<ActionResult<unknown>>
  onDone: () => void
}) {
  const [told, setTold] = useState<string | null>(null)
  const [what, setWhat] = useState(changes.of === 'person' ? 'left' : String(changes.kinds[0]?.id ?? ''))
  const [busy, begin] = useTransition()
  const moved = MOVES.find(([is]) => is === what)?.[0] ?? null
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
            kind: moved === null ? Number(what) : null,
            moved,
            after: form.get('after') || null,
            successor: form.get('successor') || null,
            day: form.get('day'),
            stated: form.get('stated') === 'on',
            text: form.get('text') || null,
            link: form.get('link') || null,
          })
          setTold(done.ok ? null : done.error)
          if (!done.ok) return
          toast.success(
            form.get('successor')
              ? 'Reported. The successor waits among the rows in doubt, under Intake.'
              : 'Reported. It shows among the changes in a moment.',
          )
          onDone()
        })
      }}
    >
      <div className="grid grid-cols-2 gap-2.5">
        <label className="field">
          <span>What happened</span>
          <select value={what} onChange={(event) => setWhat(event.target.value)}>
            {changes.of === 'person' &&
              MOVES.map(([is, title]) => (
                <option key={is} value={is}>
                  {title}
                </option>
              ))}
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
      {moved !== null && <Moves moved={moved} />}
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

function Moves({ moved }: { moved: Moved }) {
  if (moved === 'left')
    return (
      <label className="field">
        <span>Successor, if one is known. They wait among the rows in doubt; nobody is renamed.</span>
        <input name="successor" maxLength={200} />
      </label>
    )
  return (
    <label className="field">
      <span>{moved === 'role' ? 'New role' : 'Organisation they are with now'}</span>
      <input name="after" required maxLength={200} />
    </label>
  )
}

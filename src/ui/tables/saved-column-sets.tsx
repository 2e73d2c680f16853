'use client'

import { X } from 'lucide-react'
import { useState, useTransition } from 'react'
import type { ColumnSet, SavedColumns, TableSet } from '@/core/facets/table'
import type { Subject } from '@/core/records/subject'
import type { ActionResult } from '@/core/views/action-result'

/** Columns the team saved under a name: used with one press, saved from the table as it is, deleted by whoever saved them. */
export function SavedColumnSets({
  subject,
  table,
  onTable,
  first,
  save,
  drop,
}: {
  subject: Subject
  table: TableSet
  onTable: (table: TableSet) => void
  first: SavedColumns[]
  save: (subject: Subject, name: string, columns: ColumnSet) => Promise<ActionResult<SavedColumns[]>>
  drop: (id: number) => Promise<ActionResult<unknown>>
}) {
  const [sets, setSets] = useState(first)
  const [name, setName] = useState('')
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  return (
    <section aria-label="Saved columns" className="mt-3 border-t border-rule pt-2">
      <p className="quiet font-semibold">Saved by the team</p>
      {sets.length === 0 && <p className="quiet">None yet.</p>}
      <ul className="grid gap-0.5">
        {sets.map((set) => (
          <li key={set.id} className="flex items-center gap-2">
            <button
              type="button"
              className="grow text-left font-semibold text-verdigris hover:underline"
              title={`Saved by ${set.by}`}
              onClick={() => onTable({ ...table, columns: [...set.columns], pinned: set.pinned ?? 0 })}
            >
              {set.name}
            </button>
            {set.mine && (
              <button
                type="button"
                className="inline-grid size-6 place-items-center rounded text-soft hover:text-madder"
                aria-label={`Delete the columns ${set.name}`}
                disabled={busy}
                onClick={() =>
                  begin(async () => {
                    const done = await drop(set.id)
                    setTold(done.ok ? null : done.error)
                    if (done.ok) setSets((all) => all.filter(({ id }) => id !== set.id))
                  })
                }
              >
                <X size={15} aria-hidden="true" />
              </button>
            )}
          </li>
        ))}
      </ul>
      <form
        className="mt-1 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          begin(async () => {
            const done = await save(subject, name, { columns: table.columns, ...(table.pinned ? { pinned: table.pinned } : {}) })
            setTold(done.ok ? null : done.error)
            if (!done.ok) return
            setSets(done.value)
            setName('')
          })
        }}
      >
        <label className="field grow">
          <span>Save these columns as</span>
          <input value={name} maxLength={60} onChange={(e) => setName(e.target.value)} />
        </label>
        <button type="submit" className="button" disabled={busy || name.trim() === ''}>
          Save columns
        </button>
      </form>
      {told && (
        <p role="alert" className="told mt-1">
          {told}
        </p>
      )}
    </section>
  )
}

'use client'

import type { ReactNode } from 'react'
import { ArrowLeft, ArrowRight, Columns3, Pin, PinOff, X } from 'lucide-react'
import { Popover } from 'radix-ui'
import type { Subject } from '@/core/records/subject'
import { columnsFor, columnTitle, FIRST_COLUMNS, MOST_PINNED, pinColumn, type TableSet } from '@/core/facets/table'

/** Which columns a table has, in which order, and what it is sorted by. Kept for this person and this list. */
export function TableSetup({
  subject,
  table,
  onTable,
  children,
}: {
  subject: Subject
  table: TableSet
  onTable: (table: TableSet) => void
  children?: ReactNode
}) {
  const pinned = table.pinned ?? 0
  const set = (columns: string[], pins = pinned) => onTable({ ...table, columns, pinned: pins })
  const move = (i: number, by: number) => {
    const next = [...table.columns]
    const [key] = next.splice(i, 1)
    next.splice(i + by, 0, key)
    set(next)
  }
  return (
    <Popover.Root>
      <Popover.Trigger className="inline-flex min-h-6 items-center gap-1 text-[13px] font-semibold whitespace-nowrap text-verdigris hover:underline">
        <Columns3 size={14} aria-hidden="true" /> Columns
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="floating w-[320px]" align="end" sideOffset={4} collisionPadding={12} aria-label="Columns">
          <ol className="grid gap-0.5">
            {table.columns.map((key, i) => (
              <li key={key} className="flex items-center gap-1">
                <span className="grow">{columnTitle(subject, key)}</span>
                <button
                  type="button"
                  className={`inline-grid size-6 place-items-center rounded hover:text-ink disabled:opacity-30 ${i < pinned ? 'text-verdigris' : 'text-soft'}`}
                  aria-pressed={i < pinned}
                  aria-label={`Keep ${columnTitle(subject, key)} in view`}
                  disabled={i >= pinned && pinned >= MOST_PINNED}
                  onClick={() => onTable(pinColumn(table, key))}
                >
                  {i < pinned ? <PinOff size={14} aria-hidden="true" /> : <Pin size={14} aria-hidden="true" />}
                </button>
                <button
                  type="button"
                  className="inline-grid size-6 place-items-center rounded text-soft hover:text-ink disabled:opacity-30"
                  aria-label={`${columnTitle(subject, key)} further to the left`}
                  disabled={i === 0 || i === pinned}
                  onClick={() => move(i, -1)}
                >
                  <ArrowLeft size={15} aria-hidden="true" />
                </button>
                <button
                  type="button"
                  className="inline-grid size-6 place-items-center rounded text-soft hover:text-ink disabled:opacity-30"
                  aria-label={`${columnTitle(subject, key)} further to the right`}
                  disabled={i === table.columns.length - 1 || i === pinned - 1}
                  onClick={() => move(i, 1)}
                >
                  <ArrowRight size={15} aria-hidden="true" />
                </button>
                <button
                  type="button"
                  className="inline-grid size-6 place-items-center rounded text-soft hover:text-madder disabled:opacity-30"
                  aria-label={`Take ${columnTitle(subject, key)} away`}
                  disabled={table.columns.length === 1}
                  onClick={() =>
                    set(
                      table.columns.filter((k) => k !== key),
                      i < pinned ? pinned - 1 : pinned,
                    )
                  }
                >
                  <X size={15} aria-hidden="true" />
                </button>
              </li>
            ))}
          </ol>
          <label className="field mt-2">
            <span>Add a column</span>
            <select
              value=""
              disabled={table.columns.length >= 12}
              onChange={(e) => e.target.value && set([...table.columns, e.target.value])}
            >
              <option value="">choose one</option>
              {columnsFor(subject)
                .filter(([key]) => !table.columns.includes(key))
                .map(([key, title]) => (
                  <option key={key} value={key}>
                    {title}
                  </option>
                ))}
            </select>
          </label>
          {table.sort.length > 0 && (
            <p className="quiet mt-2">
              Sorted by{' '}
              {table.sort.map((s) => `${columnTitle(subject, s.key).toLowerCase()}${s.back ? ', last first' : ''}`).join(', then ')}.{' '}
              <button type="button" className="font-semibold text-verdigris" onClick={() => onTable({ ...table, sort: [] })}>
                Not at all
              </button>
            </p>
          )}
          <button
            type="button"
            className="mt-2 text-[13px] font-semibold text-verdigris"
            onClick={() => onTable({ ...table, columns: [...FIRST_COLUMNS[subject]], sort: [], pinned: 0 })}
          >
            Reset columns
          </button>
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

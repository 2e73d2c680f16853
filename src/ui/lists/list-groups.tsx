'use client'

import type { Subject } from '@/core/records/subject'
import { FACETS } from '@/core/facets/registry'
import type { Line } from '@/core/lists/line'
import type { ListView as View } from '@/core/lists/view'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

export interface Group {
  key: string
  label: string | null
}

/** Those behind a tab counted by one column; a press on a group shows only them. */
export function ListGroups({
  subject,
  lines,
  view,
  by,
  heard,
  onBy,
  onGroup,
}: {
  subject: Subject
  lines: Line[]
  view: View
  by: string
  heard: number
  onBy: (key: string | null) => void
  onGroup: (group: Group) => void
}) {
  const { answer: found = null, told } = useAsked<{ rows: { label: string; count: number }[]; unknown: number; total: number }>(
    ['/api/list-group', { lines, view, key: by }],
    { hold: true, also: heard },
  )
  const most = Math.max(1, ...(found?.rows.map((row) => row.count) ?? []))
  const title = FACETS[subject][by].title
  return (
    <section aria-label={`Counted by ${title.toLowerCase()}`} className="mt-2">
      <div className="flex items-end justify-between gap-3">
        <GroupBy subject={subject} by={by} onBy={onBy} />
        <button type="button" className="text-[13px] font-semibold text-verdigris" onClick={() => onBy(null)}>
          Back to the records
        </button>
      </div>
      {told && <p className="told mt-2">{told}</p>}
      <table className="account mt-2">
        <thead>
          <tr>
            <th scope="col">{title}</th>
            <th scope="col" className="figure">
              Records
            </th>
            <th scope="col" className="figure">
              Share
            </th>
          </tr>
        </thead>
        <tbody>
          {found?.rows.map((row) => (
            <tr key={row.label}>
              <td>
                <button
                  type="button"
                  className="min-h-6 font-semibold hover:underline"
                  onClick={() => onGroup({ key: by, label: row.label })}
                >
                  {row.label}
                </button>
                <span
                  aria-hidden="true"
                  className="mt-0.5 block h-1 rounded bg-verdigris"
                  style={{ width: `${(row.count / most) * 100}%` }}
                />
              </td>
              <td className="figure">{count(row.count)}</td>
              <td className="figure">{Math.round((row.count / found.total) * 1000) / 10} %</td>
            </tr>
          ))}
          {found && found.unknown > 0 && (
            <tr>
              <td>
                <button type="button" className="min-h-6 text-ochre hover:underline" onClick={() => onGroup({ key: by, label: null })}>
                  unknown
                </button>
              </td>
              <td className="figure text-ochre">{count(found.unknown)}</td>
              <td className="figure">{Math.round((found.unknown / found.total) * 1000) / 10} %</td>
            </tr>
          )}
          {found && (
            <tr className="total">
              <td>All</td>
              <td className="figure">{count(found.total)}</td>
              <td />
            </tr>
          )}
        </tbody>
      </table>
    </section>
  )
}

/** Chooses the column by which is counted. */
export function GroupBy({ subject, by, onBy }: { subject: Subject; by: string | null; onBy: (key: string | null) => void }) {
  return (
    <label className="inline-flex items-center gap-1.5 text-[13px]">
      <span className="text-soft">Count by</span>
      <select className="min-h-7 py-0.5! text-[13px]" value={by ?? ''} onChange={(e) => onBy(e.target.value || null)}>
        <option value="">nothing</option>
        {Object.entries(FACETS[subject]).map(([key, { title }]) => (
          <option key={key} value={key}>
            {title}
          </option>
        ))}
      </select>
    </label>
  )
}

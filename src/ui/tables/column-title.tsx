import { ArrowDown, ArrowUp } from 'lucide-react'
import { FACETS } from '@/core/facets/registry'
import { facetKeyOf, type TableSet } from '@/core/facets/table'
import type { Subject } from '@/core/records/subject'
import type { Column, Pinned } from './column'

interface ColumnTitleProps {
  subject: Subject
  column: Column
  /** What the table is sorted by; absent where it cannot be sorted. */
  table: TableSet | undefined
  onTable: ((table: TableSet) => void) | undefined
  cell: Pinned
}

/** A column's title: a press sorts by it, another the other way round, a third not at all; with Shift it is added to what is sorted by already. */
export function ColumnTitle({ subject, column, table, onTable, cell }: ColumnTitleProps) {
  const facet = facetKeyOf(column.key)
  if (!table || !onTable || facet === null || !Object.hasOwn(FACETS[subject], facet))
    return (
      <th
        scope="col"
        {...cell}
        className={`${cell.className ?? ''} ${column.wideOnly ? 'wide-only' : ''} ${column.figures ? 'text-right! pr-6!' : ''}`}
      >
        {column.title}
      </th>
    )
  const place = table.sort.findIndex((s) => s.key === facet)
  const sorted = table.sort[place]
  const next = !sorted ? { key: facet, back: false } : sorted.back ? null : { key: facet, back: true }
  return (
    <th scope="col" {...cell} aria-sort={sorted ? (sorted.back ? 'descending' : 'ascending') : 'none'}>
      <button
        type="button"
        className="inline-flex items-center gap-1 font-semibold hover:text-ink"
        title="Sort by this; with Shift, after what is sorted by already"
        onClick={(event) => {
          const others = event.shiftKey ? table.sort.filter((s) => s.key !== facet) : []
          onTable({ ...table, sort: next ? [...others, next] : others })
        }}
      >
        {column.title}
        {sorted && (sorted.back ? <ArrowDown size={13} aria-hidden="true" /> : <ArrowUp size={13} aria-hidden="true" />)}
        {sorted && table.sort.length > 1 && <sub>{place + 1}</sub>}
      </button>
    </th>
  )
}

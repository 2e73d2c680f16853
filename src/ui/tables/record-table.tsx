'use client'

import { timeText } from '@/core/text/written'
import { useVirtualizer } from '@tanstack/react-virtual'
import { ArrowDown, ArrowUp } from 'lucide-react'
import Link from 'next/link'
import { type KeyboardEvent, memo, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { Subject } from '@/core/records/subject'
import { columnTitle, facetKeyOf, type TableSet } from '@/core/facets/table'
import { FACETS } from '@/core/facets/registry'
import type { RecordView } from '@/core/views/list-views'
import { count, day } from '@/ui/book/figures'
import { MOST_ROWS } from './people-table'
import { Reach } from './reach'
import type { People } from './use-people'
import { YearStrip } from './year-strip'
import { CHANNEL_NAME } from '@/core/records/channels'

/** So many columns fit beside the name; more make the table one that is moved sideways. */
const FITTING = 6
/** Widths of a table that is moved sideways, in pixels. */
const [CHOOSE, NAME, COLUMN] = [30, 220, 124]

const REACH = ['reach']
const NONE: string[] = []
const SIDEWAYS = { className: 'sideways', tabIndex: 0, role: 'region', 'aria-label': 'The table, which can be moved sideways' }

type Pinned = { className?: string; style?: { left: number } }

interface RecordTableProps {
  subject: Subject
  records: People<RecordView>
  table: TableSet
  onTable: (table: TableSet) => void
  /** Whether it can be sorted by its titles at all. */
  fixed?: true
  because?: string
  empty: string
  /** Those that are chosen, where they can be. */
  chosen?: ReadonlySet<number>
  onChoose?: (ids: number[], on: boolean) => void
  /** Opens a record beside the list. */
  onOpen: (record: RecordView) => void
  open: number | null
}

/** The records of a list: columns as they were chosen, sorted by a press on their titles, chosen over any number of pages, moved through and opened from the keyboard. */
export function RecordTable({ subject, records, table, onTable, fixed, because, empty, chosen, onChoose, onOpen, open }: RecordTableProps) {
  const anchor = useRef<HTMLDivElement>(null)
  const [at, setAt] = useState(0)
  const total = Math.min(records.total ?? 0, MOST_ROWS)
  const columns = because ? (subject === 'person' ? REACH : NONE) : table.columns
  const places = useMemo(() => columns.map((key) => table.columns.indexOf(key)), [columns, table.columns])
  // A table of many columns is moved sideways in a frame of its own, with the name and what is pinned kept in view.
  const wide = columns.length > FITTING
  const rows = useVirtualizer({
    count: total,
    getScrollElement: () => anchor.current?.closest<HTMLElement>('.sideways, .leaf') ?? null,
    estimateSize: () => 51,
    overscan: 12,
    scrollMargin: wide ? 0 : (anchor.current?.offsetTop ?? 0),
  })
  const items = rows.getVirtualItems()
  const { want } = records
  const [first, last] = [items[0]?.index ?? 0, items[items.length - 1]?.index ?? 0]
  useEffect(() => {
    if (records.total) {
      want(first)
      want(last)
    }
  })
  const [above, below] =
    items.length > 0
      ? [items[0].start - rows.options.scrollMargin, rows.getTotalSize() - (items[items.length - 1].end - rows.options.scrollMargin)]
      : [0, 0]
  const go = (to: number) => {
    const next = Math.max(0, Math.min(total - 1, to))
    setAt(next)
    rows.scrollToIndex(next)
    setTimeout(() => anchor.current?.querySelector<HTMLElement>(`[data-index="${next}"]`)?.focus(), 30)
  }
  const onKey = (event: KeyboardEvent, index: number) => {
    if ((event.target as HTMLElement).tagName === 'INPUT' && event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return
    const record = records.at(index)
    if (event.key === 'ArrowDown' || event.key === 'j') go(index + 1)
    else if (event.key === 'ArrowUp' || event.key === 'k') go(index - 1)
    else if (event.key === 'PageDown') go(index + 10)
    else if (event.key === 'PageUp') go(index - 10)
    else if (event.key === 'Home') go(0)
    else if (event.key === 'End') go(total - 1)
    else if (event.key === 'Enter' && (event.target as HTMLElement).tagName === 'TR' && record) onOpen(record)
    else if ((event.key === ' ' || event.key === 'x') && record && onChoose) onChoose([record.id], !chosen?.has(record.id))
    else return
    event.preventDefault()
  }
  const pinned = wide ? (table.pinned ?? 0) : 0
  const chooses = onChoose !== undefined
  const left = useCallback((column: number) => (chooses ? CHOOSE : 0) + (column < 0 ? 0 : NAME + column * COLUMN), [chooses])
  const pin = useCallback(
    (column: number) => (wide && column < pinned ? { className: 'pinned', style: { left: left(column) } } : {}),
    [wide, pinned, left],
  )
  return (
    <div ref={anchor} {...(wide ? SIDEWAYS : {})}>
      {records.told && (
        <p role="status" className="told mt-3">
          {records.told}
        </p>
      )}
      {records.behind && (
        <p role="status" className="quiet mt-2">
          As of {timeText(new Date(records.behind))}: the database has not responded since.
        </p>
      )}
      {records.total === 0 && <p className="mt-6 text-soft">{empty}</p>}
      {total > 0 && (
        <table
          className="people"
          style={wide ? { width: left(0) + columns.length * COLUMN } : undefined}
          aria-label={subject === 'person' ? 'People' : subject === 'organisation' ? 'Organisations' : 'Premises'}
          aria-rowcount={total + 1}
        >
          <colgroup>
            {onChoose && <col className="w-[30px]" />}
            <col
              className={because ? 'w-[34%]' : wide ? '' : columns.length > 5 ? 'w-[24%]' : 'person w-[34%]'}
              style={wide ? { width: NAME } : undefined}
            />
            {columns.map((key) => (
              <col
                key={key}
                className={key === 'reach' && !because && !wide ? 'w-[19%]' : ''}
                style={wide ? { width: COLUMN } : undefined}
              />
            ))}
            {because && <col />}
          </colgroup>
          <thead>
            <tr>
              {onChoose && (
                <th scope="col" {...(wide ? { className: 'pinned', style: { left: 0 } } : {})}>
                  <span className="sr-only">Choose</span>
                </th>
              )}
              <th scope="col" {...pin(-1)}>
                {subject === 'person' ? 'Person' : subject === 'organisation' ? 'Organisation' : 'Premises'}
              </th>
              {columns.map((key, i) => (
                <Title
                  key={key}
                  subject={subject}
                  column={key}
                  table={table}
                  onTable={onTable}
                  fixed={fixed === true || because !== undefined}
                  cell={pin(i)}
                />
              ))}
              {because && <th scope="col">{because}</th>}
            </tr>
          </thead>
          <tbody>
            {above > 0 && <tr aria-hidden="true" style={{ height: above }} />}
            {items.map(({ index }) => {
              const record = records.at(index)
              return (
                <tr
                  key={index}
                  data-index={index}
                  ref={rows.measureElement}
                  aria-rowindex={index + 2}
                  aria-selected={record && chosen ? chosen.has(record.id) : undefined}
                  tabIndex={index === at ? 0 : -1}
                  onFocus={() => setAt(index)}
                  onKeyDown={(event) => onKey(event, index)}
                  className={record && record.id === open ? 'in-hand' : ''}
                >
                  {record ? (
                    <Cells
                      record={record}
                      columns={columns}
                      places={places}
                      because={because !== undefined}
                      chosen={chosen?.has(record.id) ?? false}
                      onChoose={onChoose}
                      onOpen={onOpen}
                      pin={pin}
                      wide={wide}
                    />
                  ) : (
                    <td colSpan={columns.length + (onChoose ? 2 : 1) + (because ? 1 : 0)} className="h-[51px] text-rule">
                      …
                    </td>
                  )}
                </tr>
              )
            })}
            {below > 0 && <tr aria-hidden="true" style={{ height: below }} />}
          </tbody>
        </table>
      )}
      {(records.total ?? 0) > MOST_ROWS && (
        <p className="quiet mt-3">
          These are the first {count(MOST_ROWS)} of {count(records.total)}. Narrow or sort to see the others; the figures and the files have
          all of them.
        </p>
      )}
    </div>
  )
}

/** A column's title: a press sorts by it, another the other way round, a third not at all; with Shift it is added to what is sorted by already. */
function Title({
  subject,
  column,
  table,
  onTable,
  fixed,
  cell,
}: {
  subject: Subject
  column: string
  table: TableSet
  onTable: (table: TableSet) => void
  fixed: boolean
  cell: Pinned
}) {
  const facet = facetKeyOf(column)
  const title = columnTitle(subject, column)
  if (fixed || facet === null || !Object.hasOwn(FACETS[subject], facet))
    return (
      <th scope="col" {...cell}>
        {title}
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
        {title}
        {sorted && (sorted.back ? <ArrowDown size={13} aria-hidden="true" /> : <ArrowUp size={13} aria-hidden="true" />)}
        {sorted && table.sort.length > 1 && <sub>{place + 1}</sub>}
      </button>
    </th>
  )
}

/** What a row holds; drawn anew only when something of it changed. */
const Cells = memo(function Cells({
  record,
  columns,
  places,
  because,
  chosen,
  onChoose,
  onOpen,
  pin,
  wide,
}: {
  places: readonly number[]
  pin: (column: number) => Pinned
  wide: boolean
  record: RecordView
  columns: readonly string[]
  because: boolean
  chosen: boolean
  onChoose?: (ids: number[], on: boolean) => void
  onOpen: (record: RecordView) => void
}) {
  return (
    <>
      {onChoose && (
        <td {...(wide ? { className: 'pinned', style: { left: 0 } } : {})}>
          <input
            type="checkbox"
            className="mt-1"
            tabIndex={-1}
            aria-label={`Choose ${record.title}`}
            checked={chosen}
            onChange={(event) => onChoose([record.id], event.target.checked)}
          />
        </td>
      )}
      <td {...pin(-1)}>
        <Link
          prefetch={false}
          href={record.href}
          tabIndex={-1}
          className="text-[14px] font-semibold no-underline hover:underline"
          onClick={(event) => {
            // A plain press opens it beside the list; with a key it opens as any link does.
            if (event.ctrlKey || event.metaKey || event.shiftKey) return
            event.preventDefault()
            onOpen(record)
          }}
        >
          {record.title}
        </Link>
        <span className="quiet block">{record.under}</span>
      </td>
      {columns.map((key, i) => (
        <td key={key} {...pin(i)}>
          <Cell record={record} column={key} at={places[i]} />
        </td>
      ))}
      {because && (
        <td>
          <span className="block text-[13.5px] font-medium">{record.because?.title}</span>
          {record.because?.detail && <span className="quiet block">{record.because.detail}</span>}
        </td>
      )}
    </>
  )
})

function Cell({ record: { person, cells }, column, at }: { record: RecordView; column: string; at: number }) {
  const none = <span className="text-soft">–</span>
  if (person) {
    if (column === 'place') return person.place ?? none
    if (column === 'reach') return <Reach reach={person.reach} />
    if (column === 'strip') return <YearStrip strip={person.strip} />
    if (column === 'last')
      return person.last ? (
        `${day(person.last.at)} · ${person.last.result ?? CHANNEL_NAME[person.last.channel]}`
      ) : (
        <span className="text-soft">never</span>
      )
  }
  return cells?.[at] ?? none
}

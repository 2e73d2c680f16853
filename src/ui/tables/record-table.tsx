'use client'

import { useVirtualizer } from '@tanstack/react-virtual'
import { type KeyboardEvent, type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { columnTitle, FIRST_COLUMNS, type TableSet } from '@/core/facets/table'
import { type Subject, SUBJECT_TITLES } from '@/core/records/subject'
import { timeText } from '@/core/text/written'
import type { RecordView } from '@/core/views/list-views'
import { count } from '@/ui/book/figures'
import { ColumnTitle } from './column-title'
import type { Column, Pinned } from './column'
import { RecordCells } from './record-cells'
import type { Records } from './use-records'

/** Beyond some 16 million pixels browsers place letters and lines askew (seen at 20 million): single precision ends there. */
export const MOST_ROWS = 300_000
/** So many columns fit beside the name; more make the table one that is moved sideways. */
const FITTING = 6
/** Widths of a table that is moved sideways, in pixels. */
const [CHOOSE, NAME, COLUMN] = [30, 220, 124]
/** The height of a row of two lines, in pixels. */
const ROW = 51

const SIDEWAYS = { className: 'sideways', tabIndex: 0, role: 'region', 'aria-label': 'The table, which can be moved sideways' }

/** What a table of people shows where its columns are not chosen. */
const PEOPLE: readonly Column[] = FIRST_COLUMNS.person.map((key) => ({
  key,
  title: columnTitle('person', key),
  ...(key === 'place' || key === 'strip' ? { wideOnly: true as const } : {}),
}))
const REACH = PEOPLE.filter(({ key }) => key === 'reach')
const NONE: readonly Column[] = []

interface RecordTableProps {
  subject: Subject
  records: Records
  empty: string
  /** Columns and an order that can be chosen; without it the table has `columns`, in the order the records come. */
  table?: TableSet
  onTable?: (table: TableSet) => void
  /** Columns of a table that cannot be set up, with the cells of each record in the same order. */
  columns?: readonly Column[]
  /** The heading of the column that says why a record is here; it takes the place of most others. */
  because?: string
  /** Those that are chosen, where they can be. */
  chosen?: ReadonlySet<number>
  onChoose?: (ids: number[], on: boolean) => void
  /** Opens a record beside the table; without it a press on its name goes to its page. */
  onOpen?: (record: RecordView) => void
  open?: number | null
  /** What can be done with a record, under the reason why it is here. */
  beside?: (record: RecordView) => ReactNode
}

/**
 * Records of any subject, holding only what is in view: columns as they were chosen, sorted by a press on their titles, chosen over any number
 * of pages, moved through and opened from the keyboard.
 */
export function RecordTable(props: RecordTableProps) {
  const { subject, records, table, onTable, because, empty, chosen, onChoose, onOpen, beside } = props
  const anchor = useRef<HTMLDivElement>(null)
  const [at, setAt] = useState(0)
  const total = Math.min(records.total ?? 0, MOST_ROWS)
  const columns = useMemo<readonly Column[]>(
    () =>
      because
        ? subject === 'person'
          ? REACH
          : NONE
        : (table?.columns.map((key) => ({ key, title: columnTitle(subject, key) })) ??
          props.columns ??
          (subject === 'person' ? PEOPLE : NONE)),
    [because, subject, table, props.columns],
  )
  // A table of many columns is moved sideways in a frame of its own, with the name and what is pinned kept in view.
  const wide = columns.length > FITTING
  const rows = useVirtualizer({
    count: total,
    getScrollElement: () => anchor.current?.closest<HTMLElement>('.sideways, .leaf') ?? null,
    estimateSize: () => ROW,
    overscan: 12,
    scrollMargin: wide ? 0 : (anchor.current?.offsetTop ?? 0),
  })
  const items = rows.getVirtualItems()
  const [first, last] = [items[0]?.index ?? 0, items[items.length - 1]?.index ?? 0]
  const { want } = records
  useEffect(() => want(first, last), [want, first, last])
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
    const { tagName } = event.target as HTMLElement
    // What can be filled in or pressed in a row keeps its own keys.
    if (tagName === 'TEXTAREA' || tagName === 'SELECT' || tagName === 'BUTTON') return
    if (tagName === 'INPUT' && event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return
    const record = records.at(index)
    const row = tagName === 'TR' && record
    if (event.key === 'ArrowDown' || event.key === 'j') go(index + 1)
    else if (event.key === 'ArrowUp' || event.key === 'k') go(index - 1)
    else if (event.key === 'PageDown') go(index + 10)
    else if (event.key === 'PageUp') go(index - 10)
    else if (event.key === 'Home') go(0)
    else if (event.key === 'End') go(total - 1)
    else if (event.key === 'Enter' && row && onOpen) onOpen(record)
    else if (event.key === 'Enter' && row) event.currentTarget.querySelector<HTMLElement>('a')?.click()
    else if ((event.key === ' ' || event.key === 'x') && record && onChoose) onChoose([record.id], !chosen?.has(record.id))
    else return
    event.preventDefault()
  }
  const pinned = wide ? (table?.pinned ?? 0) : 0
  const chooses = onChoose !== undefined
  const left = useCallback((column: number) => (chooses ? CHOOSE : 0) + (column < 0 ? 0 : NAME + column * COLUMN), [chooses])
  const pin = useCallback(
    (column: number): Pinned => (wide && column < pinned ? { className: 'pinned', style: { left: left(column) } } : {}),
    [wide, pinned, left],
  )
  const atLeft = wide ? { className: 'pinned', style: { left: 0 } } : {}
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
          aria-label={SUBJECT_TITLES[subject].many}
          aria-rowcount={total + 1}
        >
          <colgroup>
            {chooses && <col className="w-[30px]" />}
            <col
              className={because ? 'w-[32%]' : wide ? '' : columns.length > 5 ? 'w-[24%]' : 'person w-[34%]'}
              style={wide ? { width: NAME } : undefined}
            />
            {columns.map(({ key, wideOnly }) => (
              <col
                key={key}
                className={`${wideOnly ? 'wide-only' : ''} ${key !== 'reach' || wide ? '' : because ? 'w-[26%]' : 'w-[19%]'}`}
                style={wide ? { width: COLUMN } : undefined}
              />
            ))}
            {because && <col />}
          </colgroup>
          <thead>
            <tr>
              {chooses && (
                <th scope="col" {...atLeft}>
                  <span className="sr-only">Choose</span>
                </th>
              )}
              <th scope="col" {...pin(-1)}>
                {SUBJECT_TITLES[subject].one}
              </th>
              {columns.map((column, i) => (
                <ColumnTitle
                  key={column.key}
                  subject={subject}
                  column={column}
                  table={because ? undefined : table}
                  onTable={onTable}
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
                  className={record && record.id === props.open ? 'in-hand' : ''}
                >
                  {record ? (
                    <RecordCells
                      record={record}
                      columns={columns}
                      all={table?.columns}
                      because={because !== undefined}
                      chosen={chosen?.has(record.id) ?? false}
                      onChoose={onChoose}
                      onOpen={onOpen}
                      pin={pin}
                      wide={wide}
                      beside={beside?.(record)}
                    />
                  ) : (
                    <td colSpan={columns.length + (chooses ? 2 : 1) + (because ? 1 : 0)} className="h-[51px] text-rule">
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
          These are the first {count(MOST_ROWS)} of {count(records.total)}. Find, narrow or sort to see the others; the figures and the
          files have all of them.
        </p>
      )}
    </div>
  )
}

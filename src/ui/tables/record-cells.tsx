import Link from 'next/link'
import { memo, type ReactNode } from 'react'
import { isDrawn } from '@/core/facets/table'
import { CHANNEL_NAME } from '@/core/records/channels'
import type { RecordView } from '@/core/views/list-views'
import type { PersonView } from '@/core/views/record-views'
import { day } from '@/ui/book/figures'
import { Reach } from './reach'
import type { Column, Pinned } from './column'
import { YearStrip } from './year-strip'

interface RecordCellsProps {
  record: RecordView
  columns: readonly Column[]
  /** The columns that the record's cells belong to, where some of them are not shown. */
  all: readonly string[] | undefined
  because: boolean
  chosen: boolean
  onChoose?: (ids: number[], on: boolean) => void
  onOpen?: (record: RecordView) => void
  pin: (column: number) => Pinned
  wide: boolean
  beside: ReactNode
}

/** What a row holds; drawn anew only when something of it changed. */
export const RecordCells = memo(function RecordCells(props: RecordCellsProps) {
  const { record, columns, all, because, chosen, onChoose, onOpen, pin, wide, beside } = props
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
          tabIndex={onOpen ? -1 : undefined}
          className="text-[14px] font-semibold no-underline hover:underline"
          onClick={(event) => {
            // A plain press opens it beside the list; with a key it opens as any link does.
            if (!onOpen || event.ctrlKey || event.metaKey || event.shiftKey) return
            event.preventDefault()
            onOpen(record)
          }}
        >
          {record.title}
        </Link>
        <span className="quiet block">{record.under}</span>
        {record.person?.opener && !columns.some(({ key }) => key === 'opener') && (
          <span className="block text-[12.5px] break-words italic">{record.person.opener}</span>
        )}
        {record.person?.marks?.map((mark) => (
          <span key={mark} className="block text-[12.5px] break-words text-ochre">
            {mark}
          </span>
        ))}
      </td>
      {columns.map(({ key, figures, wideOnly }, i) => {
        const { className = '', ...pinned } = pin(i)
        return (
          <td key={key} className={`${className} ${wideOnly ? 'wide-only' : ''} ${figures ? 'figure pr-6!' : ''}`} {...pinned}>
            {(record.person && isDrawn(key) ? DRAW[key](record.person) : record.cells?.[all ? all.indexOf(key) : i]) ?? NOT_KNOWN}
          </td>
        )
      })}
      {because && (
        <td>
          <span className="block text-[13.5px] font-medium">{record.because?.title}</span>
          {record.because?.detail && <span className="quiet block">{record.because.detail}</span>}
          {beside}
        </td>
      )}
    </>
  )
})

const NOT_KNOWN = <span className="text-soft">–</span>
const NEVER = <span className="text-soft">never</span>

/** Columns of people that draw more than a word. */
const DRAW = {
  place: ({ place }: PersonView) => place,
  reach: ({ reach }: PersonView) => <Reach reach={reach} />,
  strip: ({ strip }: PersonView) => <YearStrip strip={strip} />,
  opener: ({ opener }: PersonView) => opener ?? NOT_KNOWN,
  last: ({ last }: PersonView) => (last ? `${day(last.at)} · ${last.result ?? CHANNEL_NAME[last.channel]}` : NEVER),
}

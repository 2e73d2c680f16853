'use client'

import { X } from 'lucide-react'
import Link from 'next/link'
import { useEffect, useRef } from 'react'
import type { Subject } from '@/core/records/subject'
import type { RecordBesideView, RecordView } from '@/core/views/list-views'
import { useAsked } from '@/ui/book/asking'
import { day } from '@/ui/book/figures'
import { CHANNEL_NAME } from '@/core/records/channels'

/** A record beside the list: what is known of it and what happened lately, without leaving the page. */
export function RecordBeside({ subject, record, onClose }: { subject: Subject; record: RecordView; onClose: () => void }) {
  const { answer: found, told } = useAsked<RecordBesideView>([`/api/records/${subject}/${record.id}`])
  const panel = useRef<HTMLElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: for another record
  useEffect(() => panel.current?.focus(), [subject, record.id])
  return (
    <aside
      ref={panel}
      tabIndex={-1}
      aria-label={record.title}
      className="fixed top-[104px] right-4 bottom-4 z-30 w-[380px] max-w-[92vw] overflow-y-auto rounded-lg border border-strong bg-leaf p-4 shadow-xl outline-none"
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return
        event.stopPropagation()
        onClose()
      }}
    >
      <div className="flex items-start justify-between gap-3">
        <div>
          <h2 className="text-[18px]">{record.title}</h2>
          <p className="quiet">{record.under}</p>
        </div>
        <button type="button" className="rounded p-1 text-soft hover:text-ink" aria-label="Close" onClick={onClose}>
          <X size={17} aria-hidden="true" />
        </button>
      </div>
      {told && <p className="told mt-2">{told}</p>}
      {record.because && (
        <p className="mt-2 text-[13.5px]">
          <b>{record.because.title}</b> <span className="quiet">{record.because.detail}</span>
        </p>
      )}
      {found && (
        <>
          <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 text-[13.5px]">
            {found.facts.map(({ name, value }) => (
              <div key={name} className="contents">
                <dt className="text-soft">{name}</dt>
                <dd className="break-words">{value}</dd>
              </div>
            ))}
          </dl>
          {found.lately.length > 0 && (
            <>
              <h3 className="mt-4 text-[14.5px] font-semibold">Lately</h3>
              <ul className="mt-1 grid gap-1 text-[13.5px]">
                {found.lately.map((item) => (
                  <li key={item.id}>
                    <span className="text-soft tabular-nums">{day(item.at)}</span> {item.channel ? CHANNEL_NAME[item.channel] : ''}{' '}
                    {item.text}
                  </li>
                ))}
              </ul>
            </>
          )}
        </>
      )}
      <Link href={record.href} className="button mt-4 inline-flex no-underline">
        Open the whole record
      </Link>
    </aside>
  )
}

'use client'

import { ArrowDown, ArrowUp, Columns3, Download } from 'lucide-react'
import { Dialog } from 'radix-ui'
import { DialogFrame } from '@/ui/forms/dialog-frame'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { RoundPage } from '@/core/views/round-views'
import { CHANNEL_TITLE, type Channel } from '@/core/records/channels'
import { FILE_FORMATS, type FileFormat, type FileLayout, layoutTrouble } from '@/core/rounds/file-layout'

export interface LayoutActions {
  keepLayout: (channel: Channel, name: string, layout: FileLayout) => Promise<ActionResult<unknown>>
  dropLayout: (id: number) => Promise<ActionResult<unknown>>
}

interface Column {
  of: string
  heading: string
  on: boolean
}

const asReleased = (heading: readonly string[]): Column[] => heading.map((of) => ({ of, heading: of, on: true }))

/** A file of a round for whoever receives it: which columns, under which headings, in which format; saved for the team under a name. */
export function LayoutDialog({ round, actions, onSaved }: { round: RoundPage; actions: LayoutActions; onSaved: () => void }) {
  const files = round.files.filter(({ withdrawnAt, rows }) => !withdrawnAt && rows > 0)
  const [open, setOpen] = useState(false)
  const [channel, setChannel] = useState<Channel>(files[0]?.channel ?? 'email')
  const file = files.find((own) => own.channel === channel) ?? files[0]
  const heading = file?.heading ?? []
  const [layoutId, setLayoutId] = useState(0)
  const [format, setFormat] = useState<FileFormat>('xlsx')
  const [columns, setColumns] = useState<Column[]>(asReleased(heading))
  const [name, setName] = useState('')
  const [told, setTold] = useState<{ ok: boolean; text: string } | null>(null)
  const [busy, begin] = useTransition()
  const saved = round.layouts.filter((own) => own.channel === channel)
  const begins = (next: Channel, id: number) => {
    const own = round.layouts.find((layout) => layout.id === id)
    const there = files.find((of) => of.channel === next)?.heading ?? []
    setChannel(next)
    setLayoutId(id)
    setName(own?.name ?? '')
    setTold(null)
    if (own) setFormat(own.format)
    const taken = (own?.columns ?? []).filter(({ of }) => there.includes(of))
    setColumns(
      own
        ? [
            ...taken.map((column) => ({ ...column, on: true })),
            ...asReleased(there.filter((of) => !taken.some((column) => column.of === of))).map((column) => ({ ...column, on: false })),
          ]
        : asReleased(there),
    )
  }
  const layout: FileLayout = {
    format,
    columns: columns.filter(({ on }) => on).map(({ of, heading: title }) => ({ of, heading: title.trim() })),
  }
  const trouble = layoutTrouble(layout, heading)
  const change = (i: number, part: Partial<Column>) => setColumns(columns.map((own, at) => (at === i ? { ...own, ...part } : own)))
  const move = (i: number, by: number) => {
    const next = [...columns]
    next.splice(i + by, 0, ...next.splice(i, 1))
    setColumns(next)
  }
  const run = (work: () => Promise<ActionResult<unknown>>, done: string) =>
    begin(async () => {
      const result = await work()
      setTold(result.ok ? { ok: true, text: done } : { ok: false, text: result.error })
      if (result.ok) onSaved()
    })
  if (files.length === 0) return null
  return (
    <DialogFrame
      open={open}
      onOpenChange={(next) => {
        setOpen(next)
        if (next) begins(channel, layoutId)
      }}
      trigger={
        <>
          <Columns3 size={15} aria-hidden="true" /> Other layouts
        </>
      }
      title="Lay out a file"
      about={
        <>For a printer, a dialler or a mail program: their format, their columns, their headings. The people are those of the file.</>
      }
      width={600}
    >
      <div className="mt-3 grid grid-cols-3 gap-3">
        <label className="field">
          <span>File</span>
          <select value={channel} onChange={(event) => begins(event.target.value as Channel, 0)}>
            {files.map((own) => (
              <option key={own.channel} value={own.channel}>
                {CHANNEL_TITLE[own.channel]}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>Saved layout</span>
          <select value={layoutId} onChange={(event) => begins(channel, Number(event.target.value))}>
            <option value={0}>As it was released</option>
            {saved.map((own) => (
              <option key={own.id} value={own.id}>
                {own.name}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>Format</span>
          <select value={format} onChange={(event) => setFormat(event.target.value as FileFormat)}>
            {Object.entries(FILE_FORMATS).map(([key, { title }]) => (
              <option key={key} value={key}>
                {title}
              </option>
            ))}
          </select>
        </label>
      </div>
      <table className="account mt-3 [&_td]:align-middle" aria-label="Columns">
        <thead>
          <tr>
            <th scope="col">Column</th>
            <th scope="col">Heading</th>
            <th scope="col">
              <span className="sr-only">Order</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {columns.map((column, i) => (
            <tr key={column.of}>
              <td>
                <label className="flex items-center gap-2">
                  <input type="checkbox" checked={column.on} onChange={(event) => change(i, { on: event.target.checked })} />
                  {column.of}
                </label>
              </td>
              <td>
                <input
                  aria-label={`Heading of ${column.of}`}
                  value={column.heading}
                  maxLength={80}
                  disabled={!column.on}
                  onChange={(event) => change(i, { heading: event.target.value })}
                />
              </td>
              <td className="whitespace-nowrap">
                <button type="button" className="button" aria-label={`Move ${column.of} up`} disabled={i === 0} onClick={() => move(i, -1)}>
                  <ArrowUp size={13} aria-hidden="true" />
                </button>{' '}
                <button
                  type="button"
                  className="button"
                  aria-label={`Move ${column.of} down`}
                  disabled={i + 1 === columns.length}
                  onClick={() => move(i, 1)}
                >
                  <ArrowDown size={13} aria-hidden="true" />
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {!columns.some(({ of, on }) => on && of === 'Record number') && (
        <p className="said mt-2">Without the record number, results that come back are matched by address or name alone.</p>
      )}
      {trouble && (
        <p role="alert" className="told mt-2">
          {trouble}
        </p>
      )}
      {told && (
        <p role={told.ok ? 'status' : 'alert'} className={`${told.ok ? 'said' : 'told'} mt-2`}>
          {told.text}
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-end gap-2">
        {trouble ? (
          <span className="button opacity-60">Download</span>
        ) : (
          <a
            className="button button-main"
            href={`/rounds/${round.id}/files/${channel}?layout=${encodeURIComponent(JSON.stringify(layout))}`}
            download
          >
            <Download size={15} aria-hidden="true" /> Download
          </a>
        )}
        {round.mayRelease && (
          <form
            className="ml-auto flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault()
              run(() => actions.keepLayout(channel, name, layout), `“${name.trim()}” is saved for the team.`)
            }}
          >
            <label className="field">
              <span>Save it as</span>
              <input value={name} maxLength={60} onChange={(event) => setName(event.target.value)} />
            </label>
            <button type="submit" className="button" disabled={busy || trouble !== null || name.trim() === ''}>
              Save layout
            </button>
          </form>
        )}
        {round.mayRelease && layoutId !== 0 && (
          <button
            type="button"
            className="button"
            disabled={busy}
            onClick={() => {
              const gone = saved.find((own) => own.id === layoutId)
              run(() => actions.dropLayout(layoutId), `“${gone?.name}” is removed.`)
              setLayoutId(0)
            }}
          >
            Remove layout
          </button>
        )}
        <Dialog.Close className="button">Close</Dialog.Close>
      </div>
    </DialogFrame>
  )
}

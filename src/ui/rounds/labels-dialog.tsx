'use client'

import { Download, Tag } from 'lucide-react'
import { Dialog } from 'radix-ui'
import { DialogFrame } from '@/ui/forms/dialog-frame'
import { useState } from 'react'
import { SHEETS } from '@/core/labels/sheet'
import type { LabelsTold } from '@/core/views/round-views'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

const MEASURES = [
  ['pageWidth', 'Page width', 210],
  ['pageHeight', 'Page height', 297],
  ['columns', 'Columns', 2],
  ['rows', 'Rows', 7],
  ['width', 'Label width', 99.1],
  ['height', 'Label height', 38.1],
  ['stepAcross', 'Step across', 101.6],
  ['stepDown', 'Step down', 38.1],
  ['left', 'Left margin', 4.65],
  ['top', 'Top margin', 15.15],
] as const

/** Address labels of a round: the sheet, where to begin, and what to look at before they are printed. */
export function LabelsDialog({ round }: { round: number }) {
  const [open, setOpen] = useState(false)
  const [sheet, setSheet] = useState<string>(Object.keys(SHEETS)[0])
  const [own, setOwn] = useState<Record<string, string>>(Object.fromEntries(MEASURES.map(([key, , value]) => [key, String(value)])))
  const [start, setStart] = useState('1')
  const [across, setAcross] = useState('0')
  const [down, setDown] = useState('0')
  const query = new URLSearchParams({ sheet, start, across, down, ...(sheet === 'own' ? own : {}) }).toString()
  const { answer, held, told } = useAsked<LabelsTold>(open ? [`/api/rounds/${round}/labels?${query}`] : null, { hold: true })
  const ready = answer !== undefined && !held && told === null && answer.labels > 0
  return (
    <DialogFrame
      open={open}
      onOpenChange={setOpen}
      trigger={
        <>
          <Tag size={15} aria-hidden="true" /> Address labels
        </>
      }
      title="Address labels"
      about="As PDF, to be printed at full size. They go to the same people as the post file. Names are fitted, never cut."
      width={560}
    >
      <div className="mt-3 grid gap-3">
        <label className="field">
          <span>Sheet</span>
          <select value={sheet} onChange={(event) => setSheet(event.target.value)}>
            {Object.entries(SHEETS).map(([key, { title }]) => (
              <option key={key} value={key}>
                {title}
              </option>
            ))}
            <option value="own">Another sheet, by its measures</option>
          </select>
        </label>
        {sheet === 'own' && (
          <fieldset className="grid grid-cols-4 gap-2">
            <legend className="quiet mb-1 font-semibold">Measures in millimetres</legend>
            {MEASURES.map(([key, title]) => (
              <label key={key} className="field">
                <span>{title}</span>
                <input
                  type="number"
                  step={key === 'columns' || key === 'rows' ? 1 : 0.01}
                  value={own[key]}
                  onChange={(event) => setOwn({ ...own, [key]: event.target.value })}
                />
              </label>
            ))}
          </fieldset>
        )}
        <div className="grid grid-cols-3 gap-3">
          <label className="field">
            <span>Begin at label</span>
            <input type="number" min={1} value={start} onChange={(event) => setStart(event.target.value)} />
          </label>
          <label className="field">
            <span>Move right, mm</span>
            <input type="number" min={-20} max={20} step={0.1} value={across} onChange={(event) => setAcross(event.target.value)} />
          </label>
          <label className="field">
            <span>Move down, mm</span>
            <input type="number" min={-20} max={20} step={0.1} value={down} onChange={(event) => setDown(event.target.value)} />
          </label>
        </div>
        {told ? (
          <p role="alert" className="told">
            {told}
          </p>
        ) : (
          <p role="status">{answer ? labelsText(answer) : 'Counting…'}</p>
        )}
      </div>
      <div className="mt-4 flex flex-wrap gap-2">
        {ready ? (
          <a href={`/rounds/${round}/files/labels?${query}`} className="button button-main" download>
            <Download size={15} aria-hidden="true" /> Download labels
          </a>
        ) : (
          <button type="button" className="button button-main" disabled>
            Download labels
          </button>
        )}
        {told === null && (
          <a href={`/rounds/${round}/files/labels?${query}&align=yes`} className="button" download>
            Download alignment page
          </a>
        )}
        <Dialog.Close className="button">Close</Dialog.Close>
      </div>
    </DialogFrame>
  )
}

function labelsText({ labels, sheets, respelled, withoutStreet, leftOut }: LabelsTold): string {
  const parts = [
    `${count(labels)} ${labels === 1 ? 'label' : 'labels'} on ${count(sheets)} ${sheets === 1 ? 'sheet' : 'sheets'}.`,
    leftOut > 0 ? `${count(leftOut)} get none: they must not be contacted any more.` : '',
    withoutStreet > 0 ? `${count(withoutStreet)} have no street.` : '',
    respelled > 0 ? `${count(respelled)} have letters that cannot be printed; they are spelled in Latin letters.` : '',
  ]
  return parts.filter(Boolean).join(' ')
}

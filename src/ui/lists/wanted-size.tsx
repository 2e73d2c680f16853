'use client'

import { useState } from 'react'
import type { ListFigures } from '@/core/lists/account'
import { type Line, lineText, subjectOf } from '@/core/lists/line'
import { farFrom, stepsTo, type Wanted } from '@/core/lists/wanted'
import type { NewLine } from '@/core/lists/resizing'
import { count } from '@/ui/book/figures'
import { ListCost } from './list-cost'
import { useProposals } from './use-proposals'

/** What a list costs, the size it should have, how far it is from that, and what would bring it nearer. */
export function WantedSize({ list, ...size }: SizeGiven & { list: number }) {
  return (
    <>
      {subjectOf(size.lines) === 'person' && <ListCost list={list} lines={size.lines} balance={size.figures?.totals.balance} />}
      <Size {...size} />
    </>
  )
}

interface SizeGiven {
  wanted: Wanted | null
  onWanted: (wanted: Wanted | null) => void
  lines: Line[]
  figures: ListFigures | null
  onRemove: (id: string) => void
  onLimit: (most: number) => void
  onAdd: (line: NewLine) => void
}

function Size({ wanted, onWanted, lines, figures, onRemove, onLimit, onAdd }: SizeGiven) {
  const [open, setOpen] = useState(false)
  const [least, setLeast] = useState(String(wanted?.least ?? ''))
  const [most, setMost] = useState(String(wanted?.most ?? ''))
  const now = figures?.totals.balance
  const proposals = useProposals(lines, wanted, wanted !== null && now !== undefined && now > wanted.most)
  if (open || wanted === null) {
    return open ? (
      <form
        className="mt-3 flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          const [from, to] = [Number(least || 0), Number(most || 10_000_000)]
          setOpen(false)
          onWanted(least === '' && most === '' ? null : { least: Math.min(from, to), most: Math.max(from, to) })
        }}
      >
        <label className="field w-24">
          <span>Wanted from</span>
          <input type="number" min={0} autoFocus value={least} onChange={(e) => setLeast(e.target.value)} />
        </label>
        <label className="field w-24">
          <span>to</span>
          <input type="number" min={0} value={most} onChange={(e) => setMost(e.target.value)} />
        </label>
        <button type="submit" className="button">
          Set
        </button>
      </form>
    ) : (
      <button type="button" className="mt-3 text-[13px] font-semibold text-verdigris" onClick={() => setOpen(true)}>
        Set a wanted size
      </button>
    )
  }
  const far = now === undefined ? null : farFrom(wanted, now)
  const steps = figures && figures.lines.length === lines.length ? stepsTo(wanted, lines, figures).slice(0, 4) : []
  return (
    <section aria-label="Wanted size" className="mt-3 text-[13.5px]">
      <p role="status">
        Wanted {count(wanted.least)} to {count(wanted.most)}:{' '}
        {far === null || now === undefined ? (
          '…'
        ) : far === 0 ? (
          <b className="text-verdigris">it is right-sized.</b>
        ) : (
          <b className={now > wanted.most ? 'text-madder' : 'text-ochre'}>
            {count(far)} too {now > wanted.most ? 'many' : 'few'}.
          </b>
        )}{' '}
        <button type="button" className="font-semibold text-verdigris" onClick={() => setOpen(true)}>
          Change
        </button>
      </p>
      {proposals.length > 0 && (
        <>
          <p className="quiet mt-2 font-semibold">Narrow it with a new line</p>
          <ul className="mt-1 grid gap-0.5" aria-label="Lines that would narrow it">
            {proposals.map(({ line, holds }) => {
              const text = lineText({ ...line, id: 'proposed' } as Line, subjectOf(lines))
              return (
                <li key={text} className="flex items-baseline justify-between gap-3">
                  <span className="min-w-0">{text}</span>
                  <button
                    type="button"
                    className="font-semibold whitespace-nowrap text-verdigris"
                    aria-label={`Add line: ${text}`}
                    onClick={() => onAdd(line)}
                  >
                    holds {count(holds)}
                  </button>
                </li>
              )
            })}
          </ul>
        </>
      )}
      {steps.length > 0 && proposals.length > 0 && <p className="quiet mt-2 font-semibold">Or change a line it has</p>}
      {steps.length > 0 && (
        <ul className="mt-1 grid gap-0.5">
          {steps.map((step) =>
            step.do === 'limit' ? (
              <li key="limit" className="flex items-baseline justify-between gap-3">
                <span>Limit it to {count(step.most)} in all</span>
                <button type="button" className="font-semibold whitespace-nowrap text-verdigris" onClick={() => onLimit(step.most)}>
                  holds {count(step.holds)}
                </button>
              </li>
            ) : (
              <li key={step.line} className="flex items-baseline justify-between gap-3">
                <span className="min-w-0 truncate">
                  Without line {lines.findIndex((l) => l.id === step.line) + 1}:{' '}
                  {lineText(lines.find((l) => l.id === step.line) as Line, subjectOf(lines))}
                </span>
                <button
                  type="button"
                  className="font-semibold whitespace-nowrap text-verdigris"
                  aria-label={`Take line ${lines.findIndex((l) => l.id === step.line) + 1} away`}
                  onClick={() => onRemove(step.line)}
                >
                  holds {count(step.holds)}
                </button>
              </li>
            ),
          )}
        </ul>
      )}
    </section>
  )
}

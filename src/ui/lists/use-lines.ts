'use client'

import { useEffect, useRef, useState } from 'react'
import { type Line, samePage } from '@/core/lists/line'
import type { ListView } from '@/core/views/list-views'
import { useLatest } from '@/ui/book/use-latest'
import { DraftKeeper } from './draft-keeper'
import { isWhole } from './line-editing'

/** How long a pause in editing is before what is not saved is kept, in milliseconds. */
const PAUSE = 400

/**
 * The lines being worked on, with undo. What is not saved is kept with the application, so that leaving the page, or
 * losing it, loses nothing and it can be gone on with anywhere. `basedOn` is the edition they were worked on from; `soon` is told
 * of lines before the page is drawn with them.
 */
export function useLines(
  list: ListView,
  keep: (basedOn: number, lines: Line[] | null, over?: readonly [Line[] | null]) => Promise<{ elsewhere: boolean; kept?: Line[] | null }>,
  soon: (lines: Line[]) => void,
) {
  const draft = list.draft?.lines ?? null
  const [lines, setLines] = useState(draft ?? list.lines)
  const [past, setPast] = useState<Line[][]>(list.draft ? [list.draft.basis] : [])
  const [base, setBase] = useState({ edition: list.draft?.basedOn ?? list.edition, lines: list.draft?.basis ?? list.lines })
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined)
  const due = useRef<(() => void) | null>(null)
  const [elsewhere, setElsewhere] = useState(false)
  const latest = useLatest({ keep })
  const [keeper] = useState(() => new DraftKeeper(draft, latest.keep, setElsewhere))

  // A draft that was put on from another page takes the place of what stands here.
  const arrived = JSON.stringify(draft)
  const lastArrived = useRef(arrived)
  useEffect(() => {
    if (arrived === lastArrived.current) return
    lastArrived.current = arrived
    const came: Line[] | null = JSON.parse(arrived)
    // What this page kept itself comes back with every refresh, and may be older than what stands here.
    if (due.current || keeper.isMine(came)) return
    keeper.take(came)
    const next = came ?? base.lines
    setPast((before) => [...before, lines])
    setLines(next)
  }, [arrived, base.lines, lines, keeper])

  useEffect(() => {
    const flush = () => due.current?.()
    window.addEventListener('pagehide', flush)
    return () => {
      window.removeEventListener('pagehide', flush)
      flush()
    }
  }, [])

  const set = (next: Line[], basis = base) => {
    soon(next)
    setLines(next)
    clearTimeout(timer.current)
    due.current = () => {
      clearTimeout(timer.current)
      due.current = null
      const whole = next.filter(isWhole)
      const kept = samePage(whole, basis.lines) ? null : whole
      void keeper.put(basis.edition, kept)
    }
    timer.current = setTimeout(() => due.current?.(), PAUSE)
  }

  return {
    lines,
    basedOn: base.edition,
    dirty: !samePage(lines, base.lines),
    canUndo: past.length > 0,
    edit: (next: Line[]) => {
      setPast((before) => [...before.slice(-99), lines])
      set(next)
    },
    /** A change that belongs to the last edit, such as filling in a line that was just added. */
    amend: (next: Line[]) => set(next),
    undo: () => {
      const last = past[past.length - 1]
      if (!last) return
      setPast(past.slice(0, -1))
      set(last)
    },
    /** Goes on from another edition, with these lines. */
    rebase: (edition: number, basis: Line[], next: Line[]) => {
      setBase({ edition, lines: basis })
      setPast([basis])
      set(next, { edition, lines: basis })
    },
    /** Whether another page of the same person kept other lines meanwhile, so that these are not kept. */
    elsewhere,
    /** Keeps these lines, whatever another page kept. */
    keepThese: async () => {
      const whole = lines.filter(isWhole)
      const kept = samePage(whole, base.lines) ? null : whole
      await keep(base.edition, kept)
      keeper.take(kept)
      setElsewhere(false)
    },
    /** What was waiting to be kept need not be: it was saved. */
    saved: () => {
      clearTimeout(timer.current)
      due.current = null
    },
  }
}

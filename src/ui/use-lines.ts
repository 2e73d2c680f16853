'use client'

import { useCallback, useEffect, useState } from 'react'
import type { Line } from '@/core/lists/line'

/**
 * The lines being worked on, with undo. What is not saved is kept in the browser's session, so that leaving the page,
 * or losing it, loses nothing; it is offered again only for the edition it was worked on from.
 */
export function useLines(list: { id: number; edition: number; lines: Line[] }) {
  const key = `arch-lines-${list.id}-${list.edition}`
  const [lines, setLines] = useState(list.lines)
  const [past, setPast] = useState<Line[][]>([])
  const base = JSON.stringify(list.lines)

  useEffect(() => {
    const kept = sessionStorage.getItem(key)
    if (kept && kept !== base) {
      setLines(JSON.parse(kept))
      setPast([JSON.parse(base)])
    }
  }, [key, base])

  const keep = useCallback(
    (next: Line[]) => {
      setLines(next)
      if (JSON.stringify(next) === base) sessionStorage.removeItem(key)
      else sessionStorage.setItem(key, JSON.stringify(next))
    },
    [key, base],
  )

  return {
    lines,
    dirty: JSON.stringify(lines) !== base,
    canUndo: past.length > 0,
    edit: (next: Line[]) => {
      setPast((before) => [...before.slice(-99), lines])
      keep(next)
    },
    /** A change that belongs to the last edit, such as filling in a line that was just added. */
    amend: keep,
    undo: () => {
      const last = past[past.length - 1]
      if (!last) return
      setPast(past.slice(0, -1))
      keep(last)
    },
    saved: () => sessionStorage.removeItem(key),
  }
}

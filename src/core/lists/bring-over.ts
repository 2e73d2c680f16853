import { compareLines, type LineChange } from './compare'
import type { Line } from './line'

/** A change somebody else made, and whether it meets one of mine on the same line. */
export interface TheirChange {
  change: Exclude<LineChange, { is: 'same' }>
  meetsMine: boolean
}

/** What somebody else changed since the edition that both worked from, in the order of their page. */
export function theirChanges(basis: readonly Line[], mine: readonly Line[], theirs: readonly Line[]): TheirChange[] {
  const touched = new Set(compareLines(basis, mine).flatMap((c) => (c.is === 'same' || c.is === 'moved' ? [] : [c.line.id])))
  return compareLines(basis, theirs).flatMap((change) => (change.is === 'same' ? [] : [{ change, meetsMine: touched.has(change.line.id) }]))
}

/**
 * My page with some of their changes brought over: a removed line goes, a changed one reads as theirs, an added or moved
 * one stands after the line it follows on their page, or last where that line is not on mine.
 */
export function bringOver(mine: readonly Line[], theirs: readonly Line[], chosen: readonly LineChange[]): Line[] {
  let lines = [...mine]
  for (const change of chosen) {
    const { id } = change.line
    if (change.is === 'removed') lines = lines.filter((line) => line.id !== id)
    else if (change.is === 'changed' && lines.some((line) => line.id === id))
      lines = lines.map((line) => (line.id === id ? change.line : line))
    else if (change.is !== 'same') {
      const others = lines.filter((line) => line.id !== id)
      const before = theirs
        .slice(
          0,
          theirs.findIndex((line) => line.id === id),
        )
        .map((line) => line.id)
      const follows = others.findLastIndex((line) => before.includes(line.id))
      const own = change.is === 'moved' ? (lines.find((line) => line.id === id) ?? change.line) : change.line
      others.splice(follows < 0 ? others.length : follows + 1, 0, own)
      lines = others
    }
  }
  return lines
}

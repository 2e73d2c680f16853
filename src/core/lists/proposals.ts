import { bringOver } from './bring-over'
import { compareLines, type LineChange } from './compare'
import { type Line, sameLine } from './line'

/** What a proposal would change of the page it was made from. */
export type Proposed = Exclude<LineChange, { is: 'same' }>

/** Returns what lines change about the page they are based on. */
export const proposed = (basis: readonly Line[], lines: readonly Line[]): Proposed[] =>
  compareLines(basis, lines).flatMap((change) => (change.is === 'same' ? [] : [change]))

/** The page as it stands now with all that a proposal changes. */
export const withProposal = (basis: readonly Line[], lines: readonly Line[], now: readonly Line[]): Line[] =>
  bringOver(now, lines, proposed(basis, lines))

/**
 * Whether a page holds all that a proposal changes: what it adds or rewords stands there as it has it, what it removes
 * does not. One that only moves lines is held by a page with its order.
 */
export function holdsProposal(basis: readonly Line[], lines: readonly Line[], page: readonly Line[]): boolean {
  const changes = proposed(basis, lines)
  const said = changes.filter((change) => change.is !== 'moved')
  const standing = new Map(page.map((line) => [line.id, line]))
  if (said.length === 0) return changes.length > 0 && page.map((l) => l.id).join() === lines.map((l) => l.id).join()
  return said.every((change) => {
    const own = standing.get(change.line.id)
    return change.is === 'removed' ? own === undefined : own !== undefined && sameLine(own, change.line)
  })
}

/** Lines a proposal changes that were changed otherwise, or taken away, since it was made. */
export function crossed(basis: readonly Line[], lines: readonly Line[], now: readonly Line[]): string[] {
  const since = new Set(
    compareLines(basis, now).flatMap((c) => (c.is === 'same' || c.is === 'moved' || c.is === 'added' ? [] : [c.line.id])),
  )
  return proposed(basis, lines).flatMap((change) => (change.is !== 'moved' && since.has(change.line.id) ? [change.line.id] : []))
}

import { CRITERIA, type Criterion, type CriterionName, validCriterion } from '@/core/criteria/registry'
import type { Subject } from '@/core/records/subject'
import { HOW, HOWS } from '@/core/criteria/related'
import type { Line } from '@/core/lists/line'

/** Whether a line can be counted already; one that was just added lacks its words. */
export function isWhole(line: Line): boolean {
  if (!('criterion' in line)) return true
  try {
    validCriterion(line.criterion)
    return true
  } catch {
    return false
  }
}

/** Returns an id for a new line. */
export const newId = () => Array.from(crypto.getRandomValues(new Uint8Array(5)), (byte) => byte.toString(16).padStart(2, '0')).join('')

/** A criterion to begin with, of a kind. */
export const firstQuestion = (kind: CriterionName, subject: Subject): Criterion =>
  kind === 'related' ? relatedTo(subject) : (CRITERIA[kind].blank as Criterion)

/** A line to begin with: a verb and a kind of criterion. */
export function newLine(verb: 'keep' | 'drop' | 'add', kind: CriterionName, subject: Subject): Line {
  return {
    id: newId(),
    verb,
    off: false,
    unknownAsYes: false,
    criterion: firstQuestion(kind, subject),
  }
}

/** How records of this kind can stand to those of another list, the likeliest way first. */
export function relatedTo(subject: Subject): Criterion {
  const how = HOWS.find((h) => (HOW[h].asked as readonly Subject[]).includes(subject)) ?? 'neighbours'
  return { kind: 'related', how, list: { id: 0, name: '' }, role: [], metres: how === 'neighbours' ? 200 : null }
}

/** A limit to begin with: of people so many of each organisation, of all else so many in all. */
export const newLimit = (subject: Subject): Line =>
  subject === 'person'
    ? { id: newId(), verb: 'limit', off: false, most: 3, per: 'organisation', rank: 'easiest to reach' }
    : { id: newId(), verb: 'limit', off: false, most: 100, per: 'all', rank: 'first in the directory' }

/** The lines with one of them at another place. The first line stays first. */
export function moved(lines: Line[], from: number, to: number): Line[] {
  const next = [...lines]
  const [line] = next.splice(from, 1)
  next.splice(Math.max(1, to), 0, line)
  return next
}

/** A line that limits a list to so many in all. */
export const limitTo = (most: number, subject: Subject): Line => ({
  id: newId(),
  verb: 'limit',
  off: false,
  most,
  per: 'all',
  rank: subject === 'person' ? 'easiest to reach' : 'first in the directory',
})

/** Goes to the line above or below, to the first of its parts that can be opened. */
export function focusLine(row: HTMLElement, by: -1 | 1): void {
  const other = by < 0 ? row.previousElementSibling : row.nextElementSibling
  other?.querySelector<HTMLElement>('button:not(.grip)')?.focus()
}

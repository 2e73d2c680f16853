import type { Criterion, CriterionName } from '@/core/criteria/registry'
import { CRITERIA, validCriterion } from '@/core/criteria/registry'
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

export const newId = () => Array.from(crypto.getRandomValues(new Uint8Array(5)), (byte) => byte.toString(16).padStart(2, '0')).join('')

/** A line to begin with: a verb and a kind of criterion. */
export function newLine(verb: 'keep' | 'drop' | 'add', kind: CriterionName): Line {
  return { id: newId(), verb, off: false, unknownAsYes: false, criterion: CRITERIA[kind].blank as Criterion }
}

/** A limit to begin with. */
export const newLimit = (): Line => ({ id: newId(), verb: 'limit', off: false, most: 3, per: 'organisation', rank: 'easiest to reach' })

/** The lines with one of them at another place. The first line stays first. */
export function moved(lines: Line[], from: number, to: number): Line[] {
  const next = [...lines]
  const [line] = next.splice(from, 1)
  next.splice(Math.max(1, to), 0, line)
  return next
}

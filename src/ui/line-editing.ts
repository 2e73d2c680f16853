import type { Criterion, CriterionName } from '@/core/criteria/registry'
import { CRITERIA, validCriterion } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'

/** Whether a line can be counted already; one that was just added lacks its words. */
export function isWhole(line: Line): boolean {
  if (line.verb === 'start') return true
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

import { fold } from '../clean/fold'
import { CRITERIA, type CriterionName } from './registry'

/**
 * Whether what somebody types finds a kind of criterion: each of the words is part of its name, its group or one of its synonyms,
 * whatever its letters and accents. Nothing typed finds every kind.
 */
export function foundBy(kind: CriterionName, typed: string): boolean {
  const { name, group, synonyms } = CRITERIA[kind]
  const words = fold([name, group, ...synonyms].join(' '))
  return fold(typed)
    .split(' ')
    .every((word) => words.includes(word))
}

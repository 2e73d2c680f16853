import type { Subject } from '../records/subject'
import type { Criterion } from '../criteria/registry'
import type { Weight } from './alike'
import { FACETS } from './registry'

/** So many questions are made of what sets examples apart; more narrow to the examples themselves. */
const MOST_QUESTIONS = 3
/** A value counts for the examples from this weight on: it is some 1.3 times as common among them. */
const TELLS = 0.25
/** A question is made of a facet when its values hold this share of the examples that have a known one. */
const HOLDS = 0.6

/**
 * Questions made of what sets examples apart, to be edited: of the facets that say most, the values that are more common
 * among the examples than among everybody, where these hold most of the examples.
 */
export function questionsLike(telling: readonly Weight[], subject: Subject): Criterion[] {
  const keys = [...new Set(telling.map(({ key }) => key))]
  const made = keys.flatMap((key) => {
    const own = telling.filter((w) => w.key === key)
    const more = own.filter((w) => w.weight >= TELLS && w.examples > 0)
    const known = own.reduce((sum, w) => sum + w.examples, 0)
    const held = more.reduce((sum, w) => sum + w.examples, 0)
    const criterion = FACETS[subject][key]?.criterion
    if (!criterion || known === 0 || held / known < HOLDS) return []
    return [
      {
        says: more.reduce((sum, w) => sum + w.weight * w.examples, 0),
        criterion: joined(more.slice(0, 12).map((w) => criterion(w.label))),
      },
    ]
  })
  // Level and function are told by the role: where the role itself is asked, they say it again.
  return made
    .sort((a, b) => b.says - a.says)
    .filter(
      ({ criterion }, _, all) =>
        !((criterion.kind === 'level' || criterion.kind === 'function') && all.some((other) => other.criterion.kind === 'role')),
    )
    .slice(0, MOST_QUESTIONS)
    .map(({ criterion }) => criterion)
}

/** Questions of one kind as one that takes the values of all. */
function joined(criteria: Criterion[]): Criterion {
  const all: Record<string, unknown> = { ...criteria[0] }
  for (const [key, first] of Object.entries(criteria[0]))
    if (Array.isArray(first)) all[key] = criteria.flatMap((c) => (c as unknown as Record<string, unknown[]>)[key])
  return all as unknown as Criterion
}

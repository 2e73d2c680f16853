import type { Day } from '../changes/sighting'

/** How a colleague may know somebody, the closest first. */
export const TIES = ['knows well', 'worked with', 'shared employer', 'met', 'spoke with', 'wrote to', 'through somebody'] as const
export type TieKind = (typeof TIES)[number]

/** What a colleague can say of themselves; the others are told by the records. */
export const OWN_TIES = ['knows well', 'worked with', 'met'] as const satisfies readonly TieKind[]
export type OwnTie = (typeof OWN_TIES)[number]

/** That a colleague knows somebody, and what shows it. */
export interface Tie {
  user: string
  name: string
  kind: TieKind
  /** The last day it rests on; null where none is known. */
  last: Day | null
  evidence: string
}

/** Ties by how close and then how recent they are, each colleague once with their closest first and the others behind it. */
export function byCloseness(ties: readonly Tie[]): { user: string; name: string; ties: Tie[] }[] {
  const sorted = [...ties].sort(
    (a, b) =>
      TIES.indexOf(a.kind) - TIES.indexOf(b.kind) ||
      (a.last === b.last ? 0 : a.last === null ? 1 : b.last === null ? -1 : a.last < b.last ? 1 : -1) ||
      (a.name < b.name ? -1 : a.name > b.name ? 1 : 0),
  )
  const people = new Map<string, { user: string; name: string; ties: Tie[] }>()
  for (const tie of sorted) {
    const own = people.get(tie.user) ?? { user: tie.user, name: tie.name, ties: [] }
    own.ties.push(tie)
    people.set(tie.user, own)
  }
  return [...people.values()]
}

import type { Bitset } from '../columns/bitset'
import type { AreaShape } from '../areas/shape'
import type { Directory } from '../columns/directory'
import type { SubjectColumns } from '../columns/subject-columns'
import type { Members, Moment, Named } from '../criteria/kind'
import { type ListCriterion, listKey } from '../criteria/list'
import { type Answers, thingsNamed } from '../criteria/registry'
import { listAccount } from './account'
import { criterionOf, type Line, type PickLine, pickKey, subjectOf } from './line'
import { type Subject, SUBJECT_NAMES } from '../records/subject'

/** The lines of every list that some lines name, at any depth, by key. */
export type NamedLists = Readonly<Record<string, Line[]>>

/** A list that a line names, and what it must be of where the line says so; null where it is of what the line's own list is. */
export type Naming = Pick<ListCriterion, 'list' | 'edition'> & { of: Subject | null }

/** The lists that lines name, lines that are off included. */
export function listsNamed(lines: readonly Line[]): Naming[] {
  return lines.flatMap((line): Naming[] => {
    if (line.verb === 'limit') return line.like ? [{ list: line.like, edition: null, of: null }] : []
    return named(line).flatMap(({ what, id, name, ...how }) =>
      what === 'list' ? [{ list: { id, name }, ...(how as Omit<Naming, 'list'>) }] : [],
    )
  })
}

/** The areas that lines name, by their number. */
export const areasNamed = (lines: readonly Line[]): { id: number; name: string }[] => only('area', lines)

/** The lists whose rounds lines name. */
export const roundsNamed = (lines: readonly Line[]): { id: number; name: string }[] => only('rounds', lines)

/** The batches that lines name, the one a list starts with among them. */
export const batchesNamed = (lines: readonly Line[]): { id: number; name: string }[] => [
  ...lines.flatMap((line) => (line.verb === 'start' && line.batch ? [line.batch] : [])),
  ...only('batch', lines),
]

/** The territories that lines name. */
export const territoriesNamed = (lines: readonly Line[]): { id: number; name: string }[] => only('territory', lines)

const only = (what: Named['what'], lines: readonly Line[]) =>
  lines.flatMap((line) => named(line).flatMap((thing) => (thing.what === what ? [{ id: thing.id, name: thing.name }] : [])))

function named(line: Line) {
  const criterion = criterionOf(line)
  return criterion ? thingsNamed(criterion) : []
}

/** Returns the lines that pick records by hand. */
export const picksIn = (lines: readonly Line[]): PickLine[] => lines.filter((line) => line.verb === 'pick')

/** What lines name that never changes: sets of records that were picked, and areas. */
export interface Fixed {
  picked: ReadonlyMap<number, readonly number[]>
  areas: ReadonlyMap<number, AreaShape>
}

/**
 * The moment with everything at hand that lines name: each named list worked out once over the same columns, the sets of
 * records that were picked, and the areas. Throws when lists name each other in a loop, when one is of another subject than
 * a line takes it for, or when a list or set is missing.
 */
export function atHand(
  moment: Moment,
  lines: readonly Line[],
  named: NamedLists,
  { picked, areas }: Fixed,
  directory: Directory,
  answers: Answers,
): Moment {
  const members = new Map<string, Members>()
  const full: Moment = { ...moment, members, areas }
  const open = new Set<string>()
  const put = (key: string, set: Bitset, columns: SubjectColumns) =>
    members.set(key, { set, has: (id) => set.has(columns.numberFor(id) ?? -1) })
  const visit = (of: readonly Line[]) => {
    const subject = subjectOf(of)
    for (const line of picksIn(of)) {
      const ids = picked.get(line.set.id)
      if (!ids) throw new Error(`the picked records ${line.set.id} are not at hand`)
      if (!members.has(pickKey(line))) put(pickKey(line), directory.of(subject).numbersNow(ids), directory.of(subject))
    }
    for (const naming of listsNamed(of)) {
      const key = listKey(naming)
      const own = named[key]
      if (!own) throw new Error(`the list “${naming.list.name}” is not at hand`)
      if (subjectOf(own) !== (naming.of ?? subject))
        throw new Error(
          `“${naming.list.name}” is a list of ${SUBJECT_NAMES[subjectOf(own)]}, and the line asks for one of ${SUBJECT_NAMES[naming.of ?? subject]}`,
        )
      if (members.has(key)) continue
      if (open.has(key)) throw new Error(`“${naming.list.name}” names itself in a loop`)
      open.add(key)
      visit(own)
      const columns = directory.of(subjectOf(own))
      put(key, listAccount(own, columns, answers, full).on, columns)
      open.delete(key)
    }
  }
  visit(lines)
  return full
}

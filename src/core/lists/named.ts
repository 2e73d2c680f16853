import type { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import type { Members, Moment } from '../criteria/kind'
import { type ListCriterion, listKey } from '../criteria/list'
import type { Answers } from '../criteria/registry'
import { listAccount } from './account'
import { criterionOf, type Line, type PickLine, pickKey } from './line'

/** The lines of every list that some lines name, at any depth, by key. */
export type NamedLists = Readonly<Record<string, Line[]>>

/** The lists that lines name, lines that are off included. */
export function listsNamed(lines: readonly Line[]): ListCriterion[] {
  return lines.flatMap((line) => {
    const criterion = criterionOf(line)
    return criterion?.kind === 'list' ? [criterion] : []
  })
}

export const picksIn = (lines: readonly Line[]): PickLine[] => lines.filter((line) => line.verb === 'pick')

/**
 * The moment with everything at hand that lines name: each named list worked out once over the same columns, and the
 * sets of people who were picked. Throws when lists name each other in a loop, or a list or set is missing.
 */
export function atHand(moment: Moment, lines: readonly Line[], named: NamedLists, picked: ReadonlyMap<number, readonly number[]>, columns: PeopleColumns, answers: Answers): Moment {
  const members = new Map<string, Members>()
  const full: Moment = { ...moment, members }
  const open = new Set<string>()
  const put = (key: string, set: Bitset) => members.set(key, { set, has: (id) => set.has(columns.numberFor(id) ?? -1) })
  const visit = (of: readonly Line[]) => {
    for (const line of picksIn(of)) {
      const ids = picked.get(line.set.id)
      if (!ids) throw new Error(`the picked people ${line.set.id} are not at hand`)
      if (!members.has(pickKey(line))) put(pickKey(line), columns.numbersNow(ids))
    }
    for (const criterion of listsNamed(of)) {
      const key = listKey(criterion)
      if (members.has(key)) continue
      if (open.has(key)) throw new Error(`“${criterion.list.name}” names itself in a loop`)
      const own = named[key]
      if (!own) throw new Error(`the list “${criterion.list.name}” is not at hand`)
      open.add(key)
      visit(own)
      put(key, listAccount(own, columns, answers, full).on)
      open.delete(key)
    }
  }
  visit(lines)
  return full
}
